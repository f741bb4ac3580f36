/** What can be undone and done again. A gesture, such as a drag, is one step. */
export interface History<T> {
  readonly past: readonly T[];
  readonly future: readonly T[];
  /** The gesture that made the last change, and when. */
  readonly gesture: { readonly name: string; readonly at: number } | undefined;
}

/** Nudges of the same thing within this time are one step of undo. */
const SAME_GESTURE_MS = 1200;
const MOST_UNDO = 200;

export const noHistory: History<never> = { past: [], future: [], gesture: undefined };

/** After a change of `before`, made by a gesture of that name; without a name it stands alone. */
export function changed<T>(history: History<T>, before: T, name: string, at: number): History<T> {
  const last = history.gesture;
  const goesOn = name !== "" && name === last?.name && at - last.at < SAME_GESTURE_MS;
  return {
    past: goesOn ? history.past : [...history.past.slice(1 - MOST_UNDO), before],
    future: [],
    gesture: { name, at },
  };
}

/** One step back from `present`: the thing as it was, and what is left. */
export function undone<T>(history: History<T>, present: T): [T, History<T>] | undefined {
  const before = history.past.at(-1);
  if (before === undefined) return undefined;
  return [
    before,
    { past: history.past.slice(0, -1), future: [present, ...history.future], gesture: undefined },
  ];
}

/** One step forward again. */
export function redone<T>(history: History<T>, present: T): [T, History<T>] | undefined {
  const [after, ...rest] = history.future;
  if (after === undefined) return undefined;
  return [after, { past: [...history.past, present], future: rest, gesture: undefined }];
}

/** Things whose history is remembered while they are not on the screen. */
const MOST_REMEMBERED = 20;
const remembered = new Map<string, { history: History<unknown>; present: unknown }>();

/** Remembers the history of a thing that is left. */
export function remember<T>(id: string, history: History<T>, present: T) {
  remembered.delete(id);
  remembered.set(id, { history, present });
  const oldest = remembered.keys().next().value;
  if (remembered.size > MOST_REMEMBERED && oldest !== undefined) remembered.delete(oldest);
}

/** The history of a thing that is opened again; what was changed elsewhere meanwhile is a step of it. */
export function recall<T>(id: string, present: T): History<T> {
  const known = remembered.get(id) as { history: History<T>; present: T } | undefined;
  if (!known) return noHistory;
  if (JSON.stringify(known.present) === JSON.stringify(present)) {
    return { ...known.history, gesture: undefined };
  }
  return changed({ ...known.history, gesture: undefined }, known.present, "", 0);
}
