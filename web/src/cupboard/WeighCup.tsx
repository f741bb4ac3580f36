import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import { useState } from "react";
import type { Ingredient } from "../api/client";
import { colour } from "../app/theme";

const measures = { "US cup": 236.588, "metric cup": 250, tablespoon: 14.787, teaspoon: 4.929 };

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
        const weight = Number(grams.replace(",", "."));
        if (!(weight > 0)) return setSaid(`“${grams}” isn't a weight. Write it like 190.`);
        const wrong = await props.onWeighed(weight / measures[measure]);
        setSaid(wrong ?? `Kept: a ${measure} of yours is ${weight} g.`);
      }}
      sx={{ display: "flex", flexWrap: "wrap", gap: 1, alignItems: "center", mt: 1 }}
    >
      <Box sx={{ fontSize: 14 }}>Weigh one:</Box>
      <TextField
        select
        size="small"
        value={measure}
        onChange={(event) => setMeasure(event.target.value as keyof typeof measures)}
        slotProps={{ htmlInput: { "aria-label": "Measure that was weighed" } }}
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
        Keep
      </Button>
      {said && (
        <Box role="status" sx={{ fontSize: 14, color: colour("muted") }}>
          {said}
        </Box>
      )}
    </Box>
  );
}
