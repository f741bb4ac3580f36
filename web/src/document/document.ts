import { createStore } from "zustand/vanilla";
import type { CallFailed } from "../api/client";
import { newKey } from "../api/newKey";
import { changed, recall, redone, remember, undone } from "../ui/history";
import { browserDrafts, compare, type Drafts } from "./draft";
import { type Event, isUnsaved, type Kept, next, type Saving, type Standing } from "./saving";

/** Where a document is kept. */
export interface Store<T> {
  save(id: string, version: number, content: T, key: string, leaving: boolean): Promise<Kept<T>>;
  read(id: string): Promise<Kept<T>>;
}

export interface DocumentState<T> {
  content: T;
  saving: Saving<T>;
  canUndo: boolean;
  canRedo: boolean;
}

const SAVE_AFTER_MS = 350;
const TRY_AGAIN_MS = 3000;

/**
 * Holds one open document, a drink or a plan: changes it, undoes by gesture, and saves by itself.
 *
 * One save is on its way at a time, and one that got no answer is tried again under its own key, so that a change
 * that did arrive isn't taken for somebody else's. How saving goes is the machine in `saving.ts`; this moves it.
 */
export function createDocument<T>(
  id: string,
  kept: Kept<T>,
  server: Store<T>,
  drafts: Drafts<T> = browserDrafts<T>(),
) {
  let history = recall(id, kept.content);
  let standing: Standing<T> = {
    content: kept.content,
    kept: kept.content,
    version: kept.version,
    saving: { phase: "saved" },
  };
  const store = createStore<DocumentState<T>>(() => ({
    content: standing.content,
    saving: standing.saving,
    ...canMove(),
  }));
  let timer: ReturnType<typeof setTimeout> | undefined;
  /** More of the same gesture follows: nothing is stored until it rests. */
  let moving = false;
  let open = true;
  let leaving = false;

  function canMove() {
    return { canUndo: history.past.length > 0, canRedo: history.future.length > 0 };
  }

  /** Moves the machine, and does what follows from where it is then. */
  function tell(event: Event<T>) {
    const before = standing;
    standing = next(standing, event);
    if (standing === before) return;
    store.setState({ content: standing.content, saving: standing.saving });
    if (!moving) keepDraft();
    const { phase } = standing.saving;
    if (phase === "due") writeAfter(SAVE_AFTER_MS);
    if (phase === "waiting") writeAfter(TRY_AGAIN_MS);
    if (phase === "writing" && before.saving.phase !== "writing") void write();
  }

  function keepDraft() {
    if (!isUnsaved(standing)) return drafts.forget(id);
    const { content, version, saving } = standing;
    const on = saving.phase === "writing" || saving.phase === "waiting" ? saving : undefined;
    const underway = on && { content: on.content, key: on.key };
    drafts.write(id, { version, content, underway });
  }

  function writeAfter(ms: number) {
    clearTimeout(timer);
    if (open) timer = setTimeout(writeNow, ms);
  }

  function writeNow() {
    tell({ type: "write", key: newKey() });
  }

  async function write() {
    const { saving, version } = standing;
    if (saving.phase !== "writing") return;
    try {
      const saved = await server.save(id, version, saving.content, saving.key, leaving);
      tell({ type: "arrived", version: saved.version });
    } catch (error) {
      const { problem, message, mayPass } = error as CallFailed;
      if (problem?.type === "stale") await overtaken();
      else if (problem && !mayPass) tell({ type: "refused", problem });
      else tell({ type: "failed", why: message });
    }
  }

  /** Another window was faster: the cook is shown what it did. */
  async function overtaken() {
    try {
      tell({ type: "overtaken", theirs: await server.read(id) });
    } catch (error) {
      tell({ type: "failed", why: (error as Error).message });
    }
  }

  function put(content: T) {
    store.setState(canMove());
    tell({ type: "changed", content });
  }

  /** Makes a change. `onItsWay` says that more of the same gesture follows, until `rest`. */
  function edit(change: (content: T) => T, gesture = "", onItsWay = false) {
    moving = onItsWay;
    const before = standing.content;
    const after = change(before);
    if (after === before) return;
    history = changed(history, before, gesture, Date.now());
    put(after);
  }

  /** The gesture has ended. */
  function rest() {
    if (!moving) return;
    moving = false;
    keepDraft();
  }

  function step(move: typeof undone<T>) {
    const moved = move(history, standing.content);
    if (!moved) return;
    history = moved[1];
    put(moved[0]);
  }

  /** What was on the screen before another window's change took its place can be had back. */
  function replaced(event: Event<T>) {
    const before = standing.content;
    tell(event);
    if (standing.content === before) return;
    history = changed(history, before, "", Date.now());
    store.setState(canMove());
  }

  /** What was heard of the server. A save that is under way hears of it by its own answer. */
  function heard(theirs: Kept<T>) {
    const { phase } = standing.saving;
    if (phase !== "writing" && phase !== "waiting") replaced({ type: "overtaken", theirs });
  }

  /** The window goes: what is not on its way yet is sent along, and is in the draft in any case. */
  function leave() {
    clearTimeout(timer);
    leaving = true;
    if (standing.saving.phase === "due" || standing.saving.phase === "refused") writeNow();
    leaving = false;
    keepDraft();
  }

  const draft = compare(drafts.read(id), kept);
  if (draft.kind === "nothing") drafts.forget(id);
  else {
    history = changed(history, kept.content, "", Date.now());
    put(draft.content);
    if (draft.kind === "conflict") {
      clearTimeout(timer);
      standing = { ...standing, saving: { phase: "conflict", theirs: kept } };
      store.setState({ saving: standing.saving });
    }
  }
  return {
    store,
    content: () => standing.content,
    edit,
    rest,
    undo: () => step(undone),
    redo: () => step(redone),
    keepMine: () => tell({ type: "keep mine" }),
    takeTheirs: () => replaced({ type: "take theirs" }),
    heard,
    /** Another window has saved it. */
    async changedElsewhere(version: number | undefined) {
      if (version !== undefined && version <= standing.version) return;
      try {
        heard(await server.read(id));
      } catch {
        // It is met again on saving.
      }
    },
    leave,
    /** It comes onto the screen, until `close`. */
    enter: () => void (open = true),
    close() {
      leave();
      open = false;
      remember(id, history, standing.content);
    },
  };
}

export type Document<T> = ReturnType<typeof createDocument<T>>;
