import type { ReactNode } from "react";
import look from "./Figure.module.css";
import { useExplains, type Word } from "./help";

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
  /** The word that is explained when the figure is touched. */
  word?: Word;
}

/** A figure with its unit small beside it and what it is underneath. Touched, it says what that means. */
export function Figure({ value, unit, label, rests, range, name, word }: FigureProps) {
  const explain = useExplains();
  const inside = (
    <>
      <span className={look.value}>
        {value} {unit && <span>{unit}</span>}
      </span>
      <span className={look.label}>
        {label}
        {rests === "estimate" && <span title="estimated">, est.</span>}
        {rests === "measured" && <span title="measured in this kitchen">, measured</span>}
        {range && <span className={look.range}>{range}</span>}
      </span>
    </>
  );
  return word ? (
    <button
      type="button"
      className={`${look.figure} ${look.asks}`}
      data-figure={name}
      aria-haspopup="dialog"
      onClick={() => explain(word)}
    >
      {inside}
    </button>
  ) : (
    <div className={look.figure} data-figure={name}>
      {inside}
    </div>
  );
}
