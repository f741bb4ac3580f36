import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import { useState } from "react";
import { useQuestion } from "../../api/ask";
import { answer, api, asking, type Drink, type Schemas } from "../../api/client";
import { colour } from "../../ui/theme";
import { TitledDialog } from "../../ui/TitledDialog";
import { Trouble } from "../../ui/Trouble";
import type { Editor } from "../editing/editor";
import { SugarCurve } from "./SugarCurve";
import { useDrinkers } from "./useDrinkers";
import { keys } from "../../api/keys";

type Way = Schemas["LeanWay"];

const ways: [Way, string][] = [
  ["tarter", "tarter"],
  ["thinner", "thinner, same balance"],
  ["sweetener", "with a sweetener"],
];

const sweeteners: [string, string][] = [
  ["allulose", "Allulose"],
  ["erythritol", "Erythritol"],
  ["xylitol", "Xylitol"],
];

interface LessSugarProps {
  editor: Editor;
  drink: Drink;
  onClose: () => void;
}

/** As little sugar as it takes: walk down the curve, see what changes, take it. */
export default function LessSugar({ editor, drink, onClose }: LessSugarProps) {
  const drinkers = useDrinkers(drink.family) ?? [];
  const [whom, setWhom] = useState("");
  const [sweetener, setSweetener] = useState("allulose");
  const [way, setWay] = useState<Way>("tarter");
  const [at, setAt] = useState(1);
  const liked = drinkers.find((one) => one.id === whom)?.spot ?? null;
  const { data, error, again } = useQuestion(keys.lessSugar(drink, liked, sweetener), (signal) =>
    answer(
      api.POST("/api/compute/less-sugar", {
        body: { drink, liked, sweetener, hold: [] },
        headers: asking("less-sugar"),
        signal,
      }),
    ),
  );
  const mine = data?.points.filter((point) => point.way === way) ?? [];
  const point = mine[Math.min(at, mine.length - 1)];
  const g = (grams: number) => `${grams.toFixed(grams < 10 ? 1 : 0)} g`;
  return (
    <TitledDialog title="Less sugar" width={680} onClose={onClose}>
      <Trouble error={error} again={again} />
      {data && (
        <>
          <Box sx={{ fontSize: 17, lineHeight: 1.45 }} data-told="">
            <strong>{g(data.now_g)}</strong> of sugar in a glass now.{" "}
            {data.unnoticed_g != null && (
              <>
                <strong>{g(data.unnoticed_g)}</strong> before anyone notices.{" "}
              </>
            )}
            {data.tarter_g != null && (
              <>
                <strong>{g(data.tarter_g)}</strong> if it may be a little tarter.
              </>
            )}
          </Box>
          <Box
            role="group"
            aria-label="How"
            sx={{
              display: "grid",
              gridTemplateColumns: { xs: "1fr", sm: "repeat(3, 1fr)" },
              gap: 0.75,
            }}
          >
            {ways.map(([key, name]) => (
              <Button
                key={key}
                aria-pressed={way === key}
                disabled={!data.points.some((p) => p.way === key)}
                onClick={() => setWay(key)}
                sx={{
                  minHeight: 44,
                  border: `1.5px solid ${colour(way === key ? "cobalt" : "hairline")}`,
                  bgcolor: way === key ? colour("wash") : "transparent",
                }}
              >
                {name}
              </Button>
            ))}
          </Box>
          <SugarCurve lean={data} way={way} point={point} />
          <Box component="label" sx={{ display: "grid", gap: 0.5 }}>
            <Box component="span" sx={{ fontSize: 14, color: colour("muted") }}>
              How much less
            </Box>
            <Box
              component="input"
              type="range"
              min={0}
              max={Math.max(0, mine.length - 1)}
              value={Math.min(at, Math.max(0, mine.length - 1))}
              aria-valuetext={point && `${g(point.sugar_g)} of sugar in a glass`}
              onChange={(event) => setAt(Number(event.target.value))}
              sx={{ width: 1, height: 44, accentColor: colour("cobalt") }}
            />
          </Box>
          {point && (
            <Box role="status">
              <Box sx={{ fontSize: 17, fontWeight: 600 }}>
                {g(point.sugar_g)} of sugar in a glass,{" "}
                {point.steps < 1 ? "no noticeable difference" : stepsAway(point.steps)}
              </Box>
              <Box component="ul" sx={{ m: 0, mt: 0.5, pl: 2.5 }}>
                {point.changes.map(({ name, from, to }) => (
                  <li key={name + to}>
                    {from ? (
                      <>
                        {name}: {from} → <strong>{to}</strong>
                      </>
                    ) : (
                      <>
                        add <strong>{to}</strong> {name.toLowerCase()}
                      </>
                    )}
                  </li>
                ))}
              </Box>
            </Box>
          )}
          <Box sx={{ display: "flex", flexWrap: "wrap", gap: 1.5 }}>
            {drinkers.length > 0 && (
              <TextField
                select
                size="small"
                label="Measured from"
                value={whom}
                onChange={(event) => setWhom(event.target.value)}
                slotProps={{ select: { displayEmpty: true } }}
                sx={{ minWidth: 200 }}
              >
                <MenuItem value="">the drink as it is</MenuItem>
                {drinkers.map(({ id, name }) => (
                  <MenuItem key={id} value={id}>
                    what {name} likes
                  </MenuItem>
                ))}
              </TextField>
            )}
            {way === "sweetener" && (
              <TextField
                select
                size="small"
                label="Sweetener"
                value={sweetener}
                onChange={(event) => setSweetener(event.target.value)}
                sx={{ minWidth: 160 }}
              >
                {sweeteners.map(([id, name]) => (
                  <MenuItem key={id} value={id}>
                    {name}
                  </MenuItem>
                ))}
              </TextField>
            )}
          </Box>
          <Box sx={{ fontSize: 14, color: colour("muted") }}>
            Not in these figures: fresh zest, mint or vanilla make a drink seem sweeter, and so does
            a pinch of salt. {data.a_day.map(({ says }) => says).join("; ")}.
          </Box>
        </>
      )}
      <Box
        sx={{
          display: "flex",
          gap: 1,
          justifyContent: "flex-end",
          position: "sticky",
          bottom: 0,
          py: 1,
          bgcolor: colour("enamel"),
        }}
      >
        <Button onClick={onClose}>Close</Button>
        <Button
          variant="contained"
          disabled={!point}
          onClick={() => {
            editor.edit((d) => ({ ...d, steps: point!.drink.steps }));
            onClose();
          }}
        >
          Use these amounts
        </Button>
      </Box>
    </TitledDialog>
  );
}

/** How far off, as a tongue would say it. */
function stepsAway(steps: number): string {
  const how = steps < 2 ? "just noticed" : steps < 4 ? "clearly noticed" : "far from it";
  return `${how} (${steps.toFixed(1)} noticeable steps)`;
}
