import Box from "@mui/material/Box";
import type { ReactNode } from "react";
import { colour, displayFont } from "../app/theme";

interface FigureProps {
  value: ReactNode;
  unit?: string;
  /** What it is a figure of. */
  label: string;
  /** What it rests on, where that is no table. */
  rests?: "table" | "estimate";
  name: string;
}

/** A figure with its unit small beside it and what it is underneath. */
export function Figure({ value, unit, label, rests, name }: FigureProps) {
  return (
    <Box data-figure={name} sx={{ minWidth: 0 }}>
      <Box
        sx={{
          ...displayFont,
          fontWeight: 700,
          fontSize: 20,
          lineHeight: 1.2,
          whiteSpace: "nowrap",
        }}
      >
        {value}
        {unit && (
          <Box
            component="span"
            sx={{ fontSize: 12.5, fontWeight: 500, color: colour("muted"), ml: 0.5 }}
          >
            {unit}
          </Box>
        )}
      </Box>
      <Box sx={{ fontSize: 13, color: colour("muted"), lineHeight: 1.3 }}>
        {label}
        {rests === "estimate" && <span title="estimated">, est.</span>}
      </Box>
    </Box>
  );
}
