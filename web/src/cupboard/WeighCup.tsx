import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import { useState } from "react";
import { type Ingredient } from "../api/client";
import { explain } from "../api/compute";
import { colour } from "../ui/theme";
import { numberIn } from "../ui/reading";

/** What is usually filled and weighed, and how the core reads it. */
const measures = {
  "US cup": "1 cup",
  "metric cup": "250 ml",
  tablespoon: "1 tbsp",
  teaspoon: "1 tsp",
};

/** What a measure of it weighs here: fill it as you do, weigh it. */
export function WeighCup(props: {
  it: Ingredient;
  onWeighed: (density: number) => Promise<string | undefined>;
}) {
  const [measure, setMeasure] = useState<keyof typeof measures>("US cup");
  const [grams, setGrams] = useState("");
  const [said, setSaid] = useState<string | undefined>();
  return (
    <Box
      component="form"
      aria-label="Weigh a cup"
      onSubmit={async (event: React.FormEvent) => {
        event.preventDefault();
        const { number: weight, wrong: unread } = await numberIn("grams", grams);
        if (unread || weight <= 0) return setSaid(unread ?? "Enter a weight above 0, such as 190.");
        try {
          const { density } = await explain({
            of: "cup",
            measure: measures[measure],
            grams: weight,
          });
          const wrong = await props.onWeighed(density);
          setSaid(wrong ?? `Saved: your ${measure} weighs ${weight} g.`);
        } catch (error) {
          setSaid((error as Error).message);
        }
      }}
      sx={{ display: "flex", flexWrap: "wrap", gap: 1, alignItems: "center", mt: 1 }}
    >
      <Box sx={{ fontSize: 14, lineHeight: "44px" }}>Weight of one:</Box>
      <TextField
        select
        size="small"
        value={measure}
        onChange={(event) => setMeasure(event.target.value as keyof typeof measures)}
        slotProps={{ htmlInput: { "aria-label": "Measure you weighed" } }}
      >
        {Object.keys(measures).map((name) => (
          <MenuItem key={name} value={name}>
            a {name}
          </MenuItem>
        ))}
      </TextField>
      <TextField
        size="small"
        label="weighs, g"
        value={grams}
        onChange={(event) => setGrams(event.target.value)}
        slotProps={{ htmlInput: { inputMode: "decimal" } }}
        sx={{ width: 110 }}
      />
      <Button type="submit" variant="outlined" disabled={grams.trim() === ""}>
        Save
      </Button>
      {said && (
        <Box role="status" sx={{ fontSize: 14, color: colour("muted") }}>
          {said}
        </Box>
      )}
    </Box>
  );
}
