import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { useQuery } from "@tanstack/react-query";
import { answer, api, type BatchView, type Doubt, type Schemas, type WayOn } from "../api/client";
import { colour, displayFont } from "../ui/theme";
import { volume } from "../ui/format";
import type { Say } from "./useBatch";
import { keys } from "../api/keys";

type AdviceOn = Schemas["AdviceOn"];

/** How a batch may go on: back to what is written, or to where the tongue wants it. */
export function useWays(view: BatchView, words: Doubt[], wanted: boolean) {
  const id = view.id;
  const { data, error, isFetching } = useQuery({
    // Whatever is said changes them.
    queryKey: keys.ways(id, view.said.length, words),
    queryFn: ({ signal }) =>
      answer(
        api.POST("/api/batches/{id}/ways", { params: { path: { id } }, body: { words }, signal }),
      ),
    enabled: wanted,
    staleTime: Infinity,
  });
  return { ways: data?.ways, advice: data?.advice, error, isFetching };
}

/** What helps against what sugar and acid don't answer, or the word that nothing does. */
export function Advice({ advice, say, onTaken }: { advice: AdviceOn[] } & Omit<WaysProps, "ways">) {
  const take = async (does: AdviceOn["does"]) => {
    onTaken?.();
    for (const what of does) if (!(await say(what))) return;
  };
  return (
    <Box component="ul" aria-label="What helps" sx={{ listStyle: "none", m: 0, p: 0 }}>
      {advice.map(({ says, does }) => (
        <Box
          component="li"
          key={says}
          sx={{
            display: "flex",
            alignItems: "center",
            gap: 1.5,
            minHeight: 52,
            py: 0.75,
            borderTop: `1px solid ${colour("hairline")}`,
          }}
        >
          <Box sx={{ flex: 1, minWidth: 0, fontSize: 16.5 }}>{says}</Box>
          {does.length > 0 && (
            <Button
              variant="outlined"
              aria-label={`Do this: ${says}`}
              onClick={() => void take(does)}
              sx={{ minHeight: 48, whiteSpace: "nowrap" }}
            >
              Do this
            </Button>
          )}
        </Box>
      ))}
    </Box>
  );
}

interface WaysProps {
  ways: WayOn[];
  say: Say;
  onTaken?: () => void;
}

/** Two or three ways to go on, each with where it leads. */
export function Ways({ ways, say, onTaken }: WaysProps) {
  const take = async (way: WayOn) => {
    onTaken?.();
    // One after the other: each is thought of after the one before.
    for (const what of way.does) if (!(await say(what))) return;
  };
  return (
    <Box component="ol" aria-label="Suggestions" sx={{ listStyle: "none", m: 0, p: 0 }}>
      {ways.map((way) => (
        <Box
          component="li"
          key={way.words.join()}
          sx={{
            display: "flex",
            flexWrap: "wrap",
            alignItems: "center",
            gap: 1.5,
            py: 1,
            borderTop: `1px solid ${colour("hairline")}`,
          }}
        >
          <Box sx={{ flex: "1 1 260px", minWidth: 0 }}>
            <Box sx={{ ...displayFont, fontSize: 19, fontWeight: 700 }}>{way.words.join(" ")}</Box>
            <Box sx={{ fontSize: 14.5, color: colour("muted") }}>
              Result: {way.ends.sweetness.toFixed(1)} g sweet and {way.ends.acidity.toFixed(2)} %
              sour, {volume(way.volume_ml)}
              {!way.reached && "; closer, but not there yet"}
            </Box>
          </Box>
          <Button variant="outlined" onClick={() => void take(way)} sx={{ minHeight: 48 }}>
            Do this
          </Button>
        </Box>
      ))}
    </Box>
  );
}
