import type { Drink, DrinkView, Problem } from "../../api/client";

/** How the drink on the screen stands with the shelf. */
export type Saving =
  /** What is on the screen is on the shelf. */
  | { readonly phase: "saved" }
  /** It has been changed and is written in a moment. */
  | { readonly phase: "due" }
  /** It is on its way. */
  | { readonly phase: "writing"; readonly drink: Drink; readonly key: string }
  /** It could not be written for now, and is tried again under the same key. */
  | {
      readonly phase: "waiting";
      readonly drink: Drink;
      readonly key: string;
      readonly why: string;
    }
  /** It can't be written as it is; the next change is tried again. */
  | { readonly phase: "refused"; readonly problem: Problem }
  /** Someone else was faster; one has to choose. */
  | { readonly phase: "conflict"; readonly theirs: DrinkView };

/** The drink on the screen, and what is known of the shelf. */
export interface Standing {
  readonly drink: Drink;
  /** As it is on the shelf, as far as is known. */
  readonly kept: Drink;
  readonly version: number;
  readonly saving: Saving;
}

export type Event =
  /** The drink on the screen is now this. */
  | { readonly type: "changed"; readonly drink: Drink }
  /** It is time to write, under a key of its own. */
  | { readonly type: "write"; readonly key: string }
  /** What was on its way has arrived. */
  | { readonly type: "arrived"; readonly version: number }
  /** There was no answer, or the shelf can't take it now. */
  | { readonly type: "failed"; readonly why: string }
  /** The shelf says that it can't be made. */
  | { readonly type: "refused"; readonly problem: Problem }
  /** The shelf has another change: met on saving, or told by another window. */
  | { readonly type: "overtaken"; readonly theirs: DrinkView }
  /** What is on the screen goes over the other change. */
  | { readonly type: "keep mine" }
  /** The other change comes onto the screen. */
  | { readonly type: "take theirs" };

/** Whether something on the screen is not on the shelf yet. */
export const isUnsaved = (s: Standing) => s.drink !== s.kept;

function afterChange(s: Standing): Standing {
  const phase = s.saving.phase;
  // On its way, failed or in conflict: what has changed since goes with the next attempt.
  if (phase === "writing" || phase === "waiting" || phase === "conflict") return s;
  return { ...s, saving: { phase: isUnsaved(s) ? "due" : "saved" } };
}

/** What follows from an event. Events that don't fit the state they meet change nothing. */
export function next(s: Standing, event: Event): Standing {
  const { saving } = s;
  switch (event.type) {
    case "changed":
      return afterChange({ ...s, drink: event.drink });
    case "write":
      if (saving.phase === "waiting") {
        // The same once more, under the key that it was said under: it may have arrived after all.
        return { ...s, saving: { phase: "writing", drink: saving.drink, key: saving.key } };
      }
      if (saving.phase !== "due" && saving.phase !== "refused") return s;
      if (!isUnsaved(s)) return { ...s, saving: { phase: "saved" } };
      return { ...s, saving: { phase: "writing", drink: s.drink, key: event.key } };
    case "arrived":
      if (saving.phase !== "writing") return s;
      return afterChange({
        ...s,
        kept: saving.drink,
        version: event.version,
        saving: { phase: "saved" },
      });
    case "failed":
      if (saving.phase !== "writing") return s;
      return { ...s, saving: { ...saving, phase: "waiting", why: event.why } };
    case "refused":
      if (saving.phase !== "writing") return s;
      return s.drink === saving.drink
        ? { ...s, saving: { phase: "refused", problem: event.problem } }
        : { ...s, saving: { phase: "due" } };
    case "overtaken":
      if (event.theirs.version <= s.version && saving.phase !== "writing") return s;
      if (saving.phase === "saved") {
        // Nothing of one's own stands in the way.
        return {
          drink: event.theirs.drink,
          kept: event.theirs.drink,
          version: event.theirs.version,
          saving,
        };
      }
      return { ...s, saving: { phase: "conflict", theirs: event.theirs } };
    case "keep mine":
      if (saving.phase !== "conflict") return s;
      return {
        ...s,
        kept: saving.theirs.drink,
        version: saving.theirs.version,
        saving: { phase: "due" },
      };
    case "take theirs":
      if (saving.phase !== "conflict") return s;
      return {
        drink: saving.theirs.drink,
        kept: saving.theirs.drink,
        version: saving.theirs.version,
        saving: { phase: "saved" },
      };
  }
}
