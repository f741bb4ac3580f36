import type { Problem } from "../api/client";

/** A document as the server has it. */
export interface Kept<T> {
  readonly version: number;
  readonly changed_at: string;
  readonly content: T;
}

/** How the document on the screen compares with what the server has. */
export type Saving<T> =
  /** The server has what is on the screen. */
  | { readonly phase: "saved" }
  /** It was changed, and is saved in a moment. */
  | { readonly phase: "due" }
  /** It is on its way. */
  | { readonly phase: "writing"; readonly content: T; readonly key: string }
  /** It couldn't be saved for now, and is tried again under the same key. */
  | {
      readonly phase: "waiting";
      readonly content: T;
      readonly key: string;
      readonly why: string;
    }
  /** It can't be saved as it is; the next change is tried again. */
  | { readonly phase: "refused"; readonly problem: Problem }
  /** Another window was faster; the cook has to choose. */
  | { readonly phase: "conflict"; readonly theirs: Kept<T> };

/** The document on the screen, and what is known of the server's. */
export interface Standing<T> {
  readonly content: T;
  /** As the server has it, as far as is known. */
  readonly kept: T;
  readonly version: number;
  readonly saving: Saving<T>;
}

export type Event<T> =
  /** The document on the screen is now this. */
  | { readonly type: "changed"; readonly content: T }
  /** It is time to write, under a key of its own. */
  | { readonly type: "write"; readonly key: string }
  /** What was on its way has arrived. */
  | { readonly type: "arrived"; readonly version: number }
  /** There was no answer, or the server can't save it now. */
  | { readonly type: "failed"; readonly why: string }
  /** The server says that it is wrong. */
  | { readonly type: "refused"; readonly problem: Problem }
  /** The server has another change: met on saving, or told by another window. */
  | { readonly type: "overtaken"; readonly theirs: Kept<T> }
  /** What is on the screen goes over the other change. */
  | { readonly type: "keep mine" }
  /** The other change comes onto the screen. */
  | { readonly type: "take theirs" };

/** Whether something on the screen isn't saved yet. */
export const isUnsaved = <T>(s: Standing<T>) => s.content !== s.kept;

function afterChange<T>(s: Standing<T>): Standing<T> {
  const phase = s.saving.phase;
  // On its way, failed or in conflict: what has changed since goes with the next attempt.
  if (phase === "writing" || phase === "waiting" || phase === "conflict") return s;
  return { ...s, saving: { phase: isUnsaved(s) ? "due" : "saved" } };
}

/** What follows from an event. Events that don't fit the state they meet change nothing. */
export function next<T>(s: Standing<T>, event: Event<T>): Standing<T> {
  const { saving } = s;
  switch (event.type) {
    case "changed":
      return afterChange({ ...s, content: event.content });
    case "write":
      if (saving.phase === "waiting") {
        // The same once more, under the key that it was said under: it may have arrived after all.
        return { ...s, saving: { phase: "writing", content: saving.content, key: saving.key } };
      }
      if (saving.phase !== "due" && saving.phase !== "refused") return s;
      if (!isUnsaved(s)) return { ...s, saving: { phase: "saved" } };
      return { ...s, saving: { phase: "writing", content: s.content, key: event.key } };
    case "arrived":
      if (saving.phase !== "writing") return s;
      return afterChange({
        ...s,
        kept: saving.content,
        version: event.version,
        saving: { phase: "saved" },
      });
    case "failed":
      if (saving.phase !== "writing") return s;
      return { ...s, saving: { ...saving, phase: "waiting", why: event.why } };
    case "refused":
      if (saving.phase !== "writing") return s;
      return s.content === saving.content
        ? { ...s, saving: { phase: "refused", problem: event.problem } }
        : { ...s, saving: { phase: "due" } };
    case "overtaken":
      if (event.theirs.version <= s.version && saving.phase !== "writing") return s;
      if (saving.phase === "saved") {
        // Nothing of one's own stands in the way.
        return {
          content: event.theirs.content,
          kept: event.theirs.content,
          version: event.theirs.version,
          saving,
        };
      }
      return { ...s, saving: { phase: "conflict", theirs: event.theirs } };
    case "keep mine":
      if (saving.phase !== "conflict") return s;
      return {
        ...s,
        kept: saving.theirs.content,
        version: saving.theirs.version,
        saving: { phase: "due" },
      };
    case "take theirs":
      if (saving.phase !== "conflict") return s;
      return {
        content: saving.theirs.content,
        kept: saving.theirs.content,
        version: saving.theirs.version,
        saving: { phase: "saved" },
      };
  }
}
