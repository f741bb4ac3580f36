import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Slider from "@mui/material/Slider";
import { useState } from "react";
import type { Schemas } from "../api/client";
import { colour, displayFont } from "../ui/theme";
import { type TastingView, useSheet } from "./queries";
import { Part, Title } from "./Table";
import { firstSeat, Turn } from "./Turn";
import { useSay } from "./useSay";

const names = ["sweet", "sour", "water"];

/** A glass, a guess, and then where it lies. */
export default function GuessTasting({
  view,
  find,
}: {
  view: TastingView;
  find: Schemas["FindAbout"];
}) {
  const { say, wrong, waits } = useSay(view.id);
  const [seat, setSeat] = useState(() => firstSeat(view));
  const [poured, setPoured] = useState(false);
  const [ratio, setRatio] = useState(16);
  const done = view.seats.reduce((sum, one) => sum + one.done, 0);
  const { data: sheet } = useSheet(view.id, done, view.stage !== "over");
  const guesses = view.tells.guesses;
  if (view.stage === "pouring")
    return (
      <>
        <Title under="Someone else fills the jugs and pours. You taste and guess.">
          Guess the balance
        </Title>
        <Part name="Three jugs">
          {find.jugs.jugs.map((jug, i) => (
            <Box key={jug.name} sx={{ fontSize: 17 }}>
              <b>{names[i]}</b>:{" "}
              {jug.filled_with.map((t) => `${t.amount} ${t.name.toLowerCase()}`).join(" + ")}
            </Box>
          ))}
        </Part>
        <Button variant="contained" sx={{ minHeight: 56, px: 4 }} onClick={() => say("poured")}>
          The jugs are ready
        </Button>
      </>
    );
  if (view.stage === "over")
    return (
      <>
        <Title>Guess the balance</Title>
        <Errors guesses={guesses} />
      </>
    );
  const mine = view.seats[seat]!;
  return (
    <>
      <Title
        under={
          poured ? "Taste it. How many parts sugar to 1 part acid?" : "For the person pouring."
        }
      >
        Guess the balance
      </Title>
      <Turn view={view} seat={seat} onSeat={setSeat} />
      {!poured && (
        <Box>
          <Box sx={{ ...displayFont, fontSize: 26, fontWeight: 700, mb: 2 }}>
            {sheet?.guess?.glass.pours.map((p) => `${p.amount} ${names[p.jug]}`).join(" + ")}
          </Box>
          <Button variant="contained" sx={{ minHeight: 56, px: 4 }} onClick={() => setPoured(true)}>
            Poured: pass it on
          </Button>
        </Box>
      )}
      {poured && (
        <Box sx={{ maxWidth: 520 }}>
          <Box sx={{ ...displayFont, fontSize: 46, fontWeight: 700 }}>{ratio} to 1</Box>
          <Slider
            aria-label="Sugar to 1 part acid"
            min={6}
            max={40}
            value={ratio}
            onChange={(_, value) => setRatio(value as number)}
            sx={{ height: 8, "& .MuiSlider-thumb": { width: 34, height: 34 } }}
          />
          <Box sx={{ display: "flex", justifyContent: "space-between", color: colour("muted") }}>
            <span>tart</span>
            <span>sweet</span>
          </Box>
          <Button
            variant="contained"
            disabled={waits}
            sx={{ mt: 2, minHeight: 56, px: 4 }}
            onClick={() => say({ guessed: { taster: mine.taster, ratio } }, () => setPoured(false))}
          >
            Guess
          </Button>
        </Box>
      )}
      <Box sx={{ mt: 3 }}>
        <Button variant="outlined" disabled={done === 0} onClick={() => say("broken")}>
          Show the answer
        </Button>
      </Box>
      {wrong && (
        <Box role="alert" sx={{ color: colour("stop"), mt: 1 }}>
          {wrong}
        </Box>
      )}
      <Errors guesses={guesses} />
    </>
  );
}

/** How far off each guess was, over time. */
function Errors({ guesses }: { guesses: Schemas["Guess"][] }) {
  if (guesses.length === 0) return null;
  const most = Math.max(4, ...guesses.map((g) => g.off));
  const [w, h] = [Math.max(guesses.length * 44, 120), 140];
  return (
    <Part name="Result">
      <svg width={w + 20} height={h + 24} role="img" aria-label="How far off each guess was">
        <path d={`M10 ${h}H${w + 10}`} stroke={colour("ink")} />
        <path
          d={`M10 ${h - (h / most) * 1}H${w + 10}`}
          stroke={colour("muted")}
          strokeDasharray="3 4"
        />
        {guesses.map((guess, i) => (
          <g key={i} transform={`translate(${32 + i * 44} 0)`}>
            <path
              d={`M0 ${h}V${h - (guess.off / most) * (h - 8)}`}
              stroke={colour("cobalt")}
              strokeWidth={12}
            />
            <text y={h + 16} textAnchor="middle" fill={colour("muted")} fontSize={12.5}>
              {guess.ratio.toFixed(0)}/{guess.is.toFixed(0)}
            </text>
          </g>
        ))}
      </svg>
      <Box sx={{ color: colour("muted") }}>
        Guessed over what it was; under the dashed line nobody would notice the difference.
      </Box>
    </Part>
  );
}
