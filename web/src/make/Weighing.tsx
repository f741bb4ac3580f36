import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import type { InstrumentView } from "../api/client";
import { colour, displayFont } from "../ui/theme";
import { weight } from "../ui/format";
import { shown, tell } from "./useInstruments";

interface WeighingProps {
  scale: InstrumentView;
  /** What is to be on it, g. */
  wanted: number;
  /** The same as it is written. */
  written: string;
  /** Whether hands pour here, in the practice kitchen. */
  practice: boolean;
}

/** How near is near enough: what a kitchen scale tells apart, or a hundredth. */
export const nearEnough = (wanted: number) => Math.max(1, wanted * 0.01);

/** The amount counts down as it is poured, stands still at the mark, and warns past it. */
export function Weighing({ scale, wanted, written, practice }: WeighingProps) {
  const there = scale.value ?? 0;
  const left = wanted - there;
  const there_it_is = Math.abs(left) <= nearEnough(wanted);
  const over = left < -nearEnough(wanted);
  const figure = there_it_is ? weight(there) : weight(Math.abs(left));
  const said = there_it_is ? "there it is" : over ? "too much" : "to go";
  return (
    <Box role="group" aria-label="On the scale" sx={{ maxWidth: 780 }}>
      <Box sx={{ display: "flex", alignItems: "flex-end", flexWrap: "wrap", columnGap: 2.5 }}>
        <Box
          data-figure="to-go"
          sx={{
            ...displayFont,
            fontSize: { xs: 84, md: 132 },
            fontWeight: 800,
            lineHeight: 1,
            letterSpacing: "-0.04em",
            color: colour(over ? "stop" : "cobalt"),
            whiteSpace: "nowrap",
          }}
        >
          {figure}
        </Box>
        <Box sx={{ pb: { xs: 0.5, md: 2 } }}>
          <Box role="status" sx={{ ...displayFont, fontSize: { xs: 22, md: 28 }, fontWeight: 700 }}>
            {said}
          </Box>
          <Box sx={{ color: colour("muted"), fontSize: 17 }}>
            of {weight(wanted)}
            {written && written !== weight(wanted) && ` · ${written}`}
          </Box>
        </Box>
      </Box>
      <Box
        aria-hidden
        sx={{
          position: "relative",
          height: 18,
          mt: 1.5,
          borderRadius: 9,
          bgcolor: colour("track"),
        }}
      >
        <Box
          sx={{ height: 18, borderRadius: 9, bgcolor: colour(over ? "stop" : "cobalt") }}
          style={{ width: `${Math.min(Math.max((100 * there) / wanted, 0), 100)}%` }}
        />
        <Box
          sx={{
            position: "absolute",
            right: 0,
            top: -6,
            width: 3,
            height: 30,
            bgcolor: colour("ink"),
          }}
        />
      </Box>
      <Box
        sx={{
          display: "flex",
          flexWrap: "wrap",
          alignItems: "center",
          columnGap: 1,
          mt: 0.5,
          color: colour("muted"),
        }}
      >
        <Box>
          {scale.value == null
            ? `the scale: ${scale.says ?? "no reading"}`
            : `on the scale ${shown(scale)}, ${scale.stable ? "still" : "moving"}`}
        </Box>
        <Button onClick={() => tell(scale, { do: "tare" })} sx={{ px: 1 }}>
          Set to zero
        </Button>
        {practice && (
          <>
            {pours(left).map((grams) => (
              <Button
                key={grams}
                variant="outlined"
                aria-label={`Pour about ${grams} g`}
                onClick={() => tell(scale, { do: "pour", grams: about(grams) })}
                sx={{ minWidth: 84 }}
              >
                pour ~{grams} g
              </Button>
            ))}
            {over && (
              <Button variant="outlined" onClick={() => tell(scale, { do: "pour", grams: left })}>
                Take some out
              </Button>
            )}
          </>
        )}
      </Box>
    </Box>
  );
}

/** What hands pour at once: most of what is left, a splash, a pinch. */
function pours(left: number): number[] {
  const most = Math.max(Math.round((left * 0.85) / 10) * 10, 0);
  return [...new Set([most, left > 12 ? 10 : 0, 1])].filter((grams) => grams > 0);
}

/** No hand pours to the gram. */
function about(grams: number): number {
  return Math.max(grams * (0.92 + 0.16 * Math.random()), 0.4);
}
