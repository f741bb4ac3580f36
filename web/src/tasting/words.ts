import type { Schemas } from "../api/client";
import type { Felt, TasterView, TastingEntry } from "./queries";

export const felts: Felt[] = ["far_low", "low", "right", "high", "far_high"];

/** What one sets up, as it stands in lists. */
export const kinds: Record<string, string> = {
  ladder: "Row of glasses",
  find: "Find my balance",
  compare: "Comparison",
  tongue: "Small differences",
  guess: "Guess the balance",
  order: "Sort glasses",
  match: "Match a drink",
  pitcher: "One pitcher for all",
};

/** Between which ends a row goes, for its title. */
export function ends(moves: Schemas["Moves"]): string {
  if (typeof moves !== "string") return "sweetener" in moves ? "which sweetener" : "what sours";
  const words = {
    sugar: "sour to sweet",
    acid: "sour to mild",
    strength: "thin to strong",
    steep: "faint to strong",
    spirit: "weak to strong",
  };
  return words[moves];
}

const numbers = ["No", "One", "Two", "Three", "Four", "Five", "Six", "Seven"];

/** "Five glasses". */
export function glassesInWords(many: number): string {
  return `${numbers[many] ?? String(many)} ${many === 1 ? "glass" : "glasses"}`;
}

/** "The beekeeper, the gatekeeper and 3 more". */
export function namesOf(names: string[], most = 3): string {
  if (names.length === 0) return "nobody";
  if (names.length === 1) return names[0]!;
  if (names.length <= most) return `${names.slice(0, -1).join(", ")} and ${names.at(-1)}`;
  return `${names.slice(0, most - 1).join(", ")} and ${names.length - most + 1} more`;
}

/** How far a tasting is, for a list. */
export function howFar(entry: TastingEntry): string {
  if (entry.stage === "pouring") return "not poured yet";
  if (entry.stage === "over") return "over";
  if (entry.of != null && entry.of > 0)
    return entry.done >= entry.of
      ? entry.stage === "sealed"
        ? "everyone has tasted; not revealed yet"
        : "everyone has tasted"
      : `${entry.done} of ${entry.of} tasted`;
  if (entry.done > 0) return `${entry.done} ${entry.done === 1 ? "glass" : "glasses"} so far`;
  return entry.stage === "open" ? "open" : "sealed";
}

/** What somebody's tastings say of them, in a line. */
export function idealLine(view: TasterView): string {
  const sure = view.ideals.filter((ideal) => ideal.sureness !== "cant_tell");
  if (sure.length === 0) return view.ideals.length > 0 ? "can't tell yet" : "no tasting yet";
  const first = sure[0]!;
  return sure.length === 1 ? first.words : `${first.words}; and of ${sure.length - 1} more kinds`;
}

/** A part as people say it: "8 parts in 100". */
export function percent(part: number): string {
  return `${Math.round(part * 100)} %`;
}
