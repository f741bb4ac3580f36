import type { ReactNode } from "react";
import look from "./Figure.module.css";

export interface FigureProps {
  value: ReactNode;
  unit?: string;
  /** What it is a figure of. */
  label: string;
  /** What it rests on, where that is no table. */
  rests?: "table" | "estimate" | "measured";
  /** Where it mostly lies, if that is known: "8.6 to 10.1". */
  range?: string | undefined;
  name: string;
}

/** A figure with its unit small beside it and what it is underneath. */
export function Figure({ value, unit, label, rests, range, name }: FigureProps) {
  return (
    <div className={look.figure} data-figure={name}>
      <div className={look.value}>
        {value} {unit && <span>{unit}</span>}
      </div>
      <div className={look.label}>
        {label}
        {rests === "estimate" && <span title="estimated">, est.</span>}
        {rests === "measured" && <span title="measured in this kitchen">, measured</span>}
        {range && <span className={look.range}>{range}</span>}
      </div>
    </div>
  );
}
