import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import { useState } from "react";
import { useNavigate } from "react-router";
import { useQuestion } from "../api/ask";
import { type Doubt, type Schemas } from "../api/client";
import { trace } from "../api/compute";
import { useDrinksToChoose } from "../api/queries";
import { colour, displayFont } from "../ui/theme";
import { doubts, type Felt } from "../drink/balance/feel";
import { Feel } from "../drink/balance/Feel";
import { useDrink, WhichDrink } from "./choose";
import type { TastingView } from "./queries";
import { Part, Title } from "./Table";
import { useSay } from "./useSay";
import { keys } from "../api/keys";

function range(value: Schemas["Range"] | null | undefined, places: number, unit: string): string {
  if (!value) return "not known yet";
  return `${value.middle.toFixed(places)} ${unit}, likely ${value.low.toFixed(places)} to ${value.high.toFixed(places)}`;
}

/** A drink that is to be matched: where it lies, and the rounds that come nearer. */
export default function MatchTasting({
  view,
  match,
}: {
  view: TastingView;
  match: Schemas["MatchAbout"];
}) {
  const { say, wrong, waits } = useSay(view.id);
  const { data: shelf } = useDrinksToChoose();
  const known = shelf?.drinks.find((d) => d.name === match.drink.name)?.id ?? "";
  const [drinkId, setDrink] = useState<string | undefined>();
  const ours = drinkId ?? known;
  const { data: drink } = useDrink(ours);
  const [words, setWords] = useState<Felt>({});
  const [note, setNote] = useState("");
  const go = useNavigate();
  const { likely, reference } = match;
  const traced = useQuestion(
    keys.trace("match", drink),
    (signal) => trace(drink!, signal),
    drink !== undefined,
  );
  const point = traced.data?.map.point;
  return (
    <>
      <Title under={likely.rests_on}>{reference.name ?? ""}</Title>
      <Part name="On the map">
        <Box sx={{ ...displayFont, fontSize: 24, fontWeight: 700 }}>
          {range(likely.sweetness, 1, "g sweetness")}
        </Box>
        <Box sx={{ ...displayFont, fontSize: 24, fontWeight: 700 }}>
          {range(likely.acidity, 2, "% acid")}
        </Box>
        {likely.alcohol != null && <Box>{likely.alcohol} % vol</Box>}
        {point && (
          <Box sx={{ color: colour("muted"), mt: 0.5 }}>
            Yours: {point.sweetness.toFixed(1)} g and {point.acidity.toFixed(2)} %.
          </Box>
        )}
        {likely.sweetness && likely.acidity && ours && (
          <Button
            variant="contained"
            sx={{ mt: 1.5 }}
            onClick={() =>
              void go(`/drinks/${ours}`, {
                state: {
                  ring: {
                    sweetness: likely.sweetness!.middle,
                    acidity: likely.acidity!.middle,
                  },
                },
              })
            }
          >
            Aim at it in Balance
          </Button>
        )}
      </Part>
      <Part name="Pour both and taste">
        <Box sx={{ display: "grid", gap: 1.5, maxWidth: 620 }}>
          <WhichDrink label="Yours" chosen={ours} onChoose={setDrink} />
          <Box>Beside yours, {reference.name} is …</Box>
          <Feel felt={words} onChange={setWords} />
          <TextField
            size="small"
            label="What you changed"
            value={note}
            onChange={(event) => setNote(event.target.value)}
          />
          <Button
            variant="contained"
            disabled={!point || waits}
            sx={{ justifySelf: "start", minHeight: 52 }}
            onClick={() =>
              point &&
              say(
                {
                  round: {
                    ours: { sweetness: point.sweetness, acidity: point.acidity },
                    beside: doubts(words),
                    note,
                  },
                },
                () => {
                  setWords({});
                  setNote("");
                },
              )
            }
          >
            Keep this round
          </Button>
          {wrong && (
            <Box role="alert" sx={{ color: colour("stop") }}>
              {wrong}
            </Box>
          )}
        </Box>
      </Part>
      {match.rounds.length > 0 && (
        <Part name="Rounds">
          <Box component="ol" sx={{ m: 0, pl: 2.5 }}>
            {match.rounds.map((round, i) => {
              if (typeof round.said === "string" || !("round" in round.said)) return null;
              const { ours: at, beside, note: said } = round.said.round;
              return (
                <li key={i}>
                  Yours at {at.sweetness.toFixed(1)} g and {at.acidity.toFixed(2)} %:{" "}
                  {beside.length === 0
                    ? "no noticeable difference"
                    : `the other is ${beside.map((d) => `${how[d.how]} ${more[d.too]}`).join(", ")}`}
                  {said && `. ${said}`}
                </li>
              );
            })}
          </Box>
        </Part>
      )}
    </>
  );
}

const how = { touch: "slightly", clearly: "clearly", far: "far" };
const more: Partial<Record<Doubt["too"], string>> = {
  sweet: "sweeter",
  not_sweet: "less sweet",
  sharp: "more sour",
  not_sharp: "softer",
  strong: "stronger",
  weak: "weaker",
};
