import Box from "@mui/material/Box";
import type { Ingredient } from "../api/client";
import { colour } from "../ui/theme";

/** A part of an ingredient: so many grams in 100 g. */
export interface Part {
  name: string;
  grams: number;
  colour: string;
}

/** Less than this in 100 g is no part that is seen. */
const LEAST = 0.05;

/** What 100 g of an ingredient are made of, the largest first; what the figures leave over comes last. */
export function partsOf(it: Ingredient): Part[] {
  const parts = [
    { name: "water", grams: it.water_percent, colour: colour("water") },
    { name: "sugars", grams: it.sugar_percent, colour: colour("sweet") },
    { name: "acids", grams: it.acidity_percent, colour: colour("acid") },
    { name: "pulp and fibre", grams: it.insoluble_percent, colour: colour("bandName") },
    { name: "alcohol", grams: it.alcohol_percent, colour: colour("rose") },
  ].sort((a, b) => b.grams - a.grams);
  const rest = 100 - parts.reduce((sum, part) => sum + part.grams, 0);
  return [...parts, { name: "the rest", grams: rest, colour: colour("track") }].filter(
    (part) => part.grams >= LEAST,
  );
}

/** A bar as long as 100 g: how much of it is water, sugar, acid. */
export function MadeOf({ it }: { it: Ingredient }) {
  const parts = partsOf(it);
  return (
    <Box component="figure" sx={{ m: 0, mb: 2 }}>
      <Box
        aria-hidden
        sx={{
          display: "flex",
          gap: "2px",
          height: 30,
          borderRadius: "9px",
          overflow: "hidden",
          bgcolor: colour("ink"),
          border: `2px solid ${colour("ink")}`,
        }}
      >
        {parts.map((part) => (
          <Box
            key={part.name}
            sx={{ minWidth: 3 }}
            style={{ flex: `${part.grams} 1 0`, background: part.colour }}
          />
        ))}
      </Box>
      <Box
        component="figcaption"
        sx={{ display: "flex", flexWrap: "wrap", columnGap: 2, mt: 0.75, fontSize: 13.5 }}
      >
        <span>100 g:</span>
        {parts.map((part) => (
          <Box component="span" key={part.name} sx={{ whiteSpace: "nowrap" }}>
            <Box
              component="span"
              aria-hidden
              sx={{ display: "inline-block", width: 10, height: 10, borderRadius: "3px", mr: 0.75 }}
              style={{ background: part.colour }}
            />
            {part.name} {part.grams < 10 ? part.grams.toFixed(1) : part.grams.toFixed(0)} g
          </Box>
        ))}
      </Box>
    </Box>
  );
}
