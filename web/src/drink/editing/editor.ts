import { replaceEqualDeep } from "@tanstack/react-query";
import { createStore } from "zustand/vanilla";
import type { CallFailed, Drink, DrinkReport, DrinkView, Problem } from "../../api/client";
import { browserDrafts, compare, type Drafts } from "./draft";
import { changed, recall, redone, remember, undone } from "../../ui/history";
import { type Event, isUnsaved, next, type Saving, type Standing } from "./saving";
import { kitchenServer, type Server } from "./server";
import { newKey } from "../../api/newKey";

export interface EditorState {
  drink: Drink;
  /** The last answer of the core, with the drink that it is about: it stays until the next is there. */
  shown: { drink: Drink; report: DrinkReport } | undefined;
  /** What the core said of the last change that can't be made. */
  problem: Problem | undefined;
  /** Why the core can't be asked at the moment. */
  silence: string | undefined;
  saving: Saving;
  /** So many typed changes are being tried, and aren't part of the drink yet. */
  trying: number;
  canUndo: boolean;
  canRedo: boolean;
}

const SAVE_AFTER_MS = 350;
const TRY_AGAIN_MS = 3000;
/** A question that had no answer is asked again after this, and then ever more rarely. */
const ASK_AGAIN_MS = [500, 1000, 2000, 4000, 8000];

/**
 * Holds one open drink: changes it, asks the core what that comes to, and saves by itself.
 *
 * Only one question to the core is on its way at a time; when it is answered and the drink has
 * changed meanwhile, the newest state is asked next. So the latest answer wins, and a slow machine
 * is never flooded by a drag. How saving goes is the machine in `saving.ts`; this moves it.
 */
export function createEditor(
  view: DrinkView,
  server: Server = kitchenServer,
  drafts: Drafts = browserDrafts,
) {
  const { id } = view;
  let history = recall(id, view.drink);
  let standing: Standing = {
    drink: view.drink,
    kept: view.drink,
    version: view.version,
    saving: { phase: "saved" },
  };
  const store = createStore<EditorState>(() => ({
    drink: view.drink,
    shown: undefined,
    problem: undefined,
    silence: undefined,
    saving: standing.saving,
    trying: 0,
    canUndo: history.past.length > 0,
    canRedo: history.future.length > 0,
  }));
  const { getState: get, setState: set } = store;
  let asking = false;
  let askedFor: Drink | undefined;
  /** An amount is being dragged: only what moves is asked for, the whole when it comes to rest. */
  let passing = false;
  let failures = 0;
  let saveTimer: ReturnType<typeof setTimeout> | undefined;
  let askTimer: ReturnType<typeof setTimeout> | undefined;
  let open = true;
  let leaving = false;

  /** Moves the machine, and does what follows from where it is then. */
  function tell(event: Event) {
    const before = standing;
    standing = next(standing, event);
    if (standing === before) return;
    set({ drink: standing.drink, saving: standing.saving });
    keepDraft();
    if (standing.drink !== before.drink) void ask();
    const { phase } = standing.saving;
    if (phase === "due") writeAfter(SAVE_AFTER_MS);
    if (phase === "waiting") writeAfter(TRY_AGAIN_MS);
    if (phase === "writing" && before.saving.phase !== "writing") void write();
  }

  function keepDraft() {
    const { drink, version, saving } = standing;
    if (isUnsaved(standing)) {
      const on = saving.phase === "writing" || saving.phase === "waiting" ? saving : undefined;
      const underway = on && { drink: on.drink, key: on.key };
      drafts.write(id, { version, drink, underway });
    } else {
      drafts.forget(id);
    }
  }

  function writeAfter(ms: number) {
    clearTimeout(saveTimer);
    if (open) saveTimer = setTimeout(writeNow, ms);
  }

  function writeNow() {
    tell({ type: "write", key: newKey() });
  }

  async function write() {
    const { saving, version } = standing;
    if (saving.phase !== "writing") return;
    try {
      const saved = await server.save(id, version, saving.drink, saving.key, leaving);
      tell({ type: "arrived", version: saved.version });
    } catch (error) {
      const { problem, message, mayPass } = error as CallFailed;
      if (problem?.current) tell({ type: "overtaken", theirs: problem.current });
      else if (problem && !mayPass) tell({ type: "refused", problem });
      else tell({ type: "failed", why: message });
    }
  }

  async function ask() {
    if (asking) return;
    asking = true;
    clearTimeout(askTimer);
    while (open && askedFor !== standing.drink) {
      const drink = standing.drink;
      askedFor = drink;
      try {
        const before = get().shown?.report;
        const report =
          passing && before
            ? { ...before, ...(await server.glance(drink)) }
            : await server.trace(drink);
        failures = 0;
        // What has not changed stays the same object, so that it is not drawn again.
        set({
          shown: { drink, report: replaceEqualDeep(before, report) },
          problem: undefined,
          silence: undefined,
        });
      } catch (error) {
        const { problem, message, mayPass } = error as CallFailed;
        if (problem && !mayPass) set({ problem, silence: undefined });
        else {
          // Nobody has heard it: it is asked again, unless something newer is asked before.
          askedFor = undefined;
          set({ silence: message });
          const pause = ASK_AGAIN_MS[Math.min(failures, ASK_AGAIN_MS.length - 1)];
          failures += 1;
          if (open) askTimer = setTimeout(() => void ask(), pause);
          break;
        }
      }
    }
    asking = false;
  }

  function put(drink: Drink) {
    set({ canUndo: history.past.length > 0, canRedo: history.future.length > 0 });
    tell({ type: "changed", drink });
  }

  /** Makes a change. `onItsWay` says that more of the same gesture follows, until `rest`. */
  function edit(change: (drink: Drink) => Drink, gesture = "", onItsWay = false) {
    passing = onItsWay;
    const before = standing.drink;
    const after = change(before);
    if (after === before) return;
    history = changed(history, before, gesture, Date.now());
    put(after);
  }

  /** The gesture has ended. */
  function rest() {
    if (!passing) return;
    passing = false;
    again();
  }

  /** Makes a change only if the core can run it; otherwise says why not and leaves all as it is. */
  async function tryEdit(change: (drink: Drink) => Drink): Promise<string | undefined> {
    set({ trying: get().trying + 1 });
    try {
      await server.trace(change(standing.drink));
      // On top of whatever has been changed while that was asked.
      edit(change);
      return undefined;
    } catch (error) {
      return (error as Error).message;
    } finally {
      set({ trying: get().trying - 1 });
    }
  }

  function step(move: typeof undone<Drink>) {
    const moved = move(history, standing.drink);
    if (!moved) return;
    history = moved[1];
    put(moved[0]);
  }

  /** Settles a conflict: the other change comes onto this screen; undo brings this one back. */
  function takeTheirs() {
    if (standing.saving.phase !== "conflict") return;
    history = changed(history, standing.drink, "", Date.now());
    tell({ type: "take theirs" });
    set({ canUndo: true, canRedo: false });
  }

  /** Another window has changed the drink. */
  async function changedElsewhere(version: number | undefined) {
    if (version !== undefined && version <= standing.version) return;
    try {
      const theirs = await server.read(id);
      const before = standing.drink;
      tell({ type: "overtaken", theirs });
      if (standing.drink !== before) {
        history = changed(history, before, "", Date.now());
        set({ canUndo: true, canRedo: false });
      }
    } catch {
      // It is met again on saving.
    }
  }

  /** Asks the core again about the same drink: the cupboard knows better now, or one presses again. */
  function again() {
    askedFor = undefined;
    void ask();
  }

  /** The window goes: what is not on its way yet is sent along, and lies in the draft in any case. */
  function leave() {
    clearTimeout(saveTimer);
    leaving = true;
    if (standing.saving.phase === "due" || standing.saving.phase === "refused") writeNow();
    leaving = false;
    keepDraft();
  }

  /** It comes onto the screen; the answer takes it off again. */
  function enter() {
    open = true;
    void ask();
    return close;
  }

  function close() {
    leave();
    open = false;
    clearTimeout(askTimer);
    remember(id, history, standing.drink);
  }

  const draft = compare(drafts.read(id), view);
  if (draft.kind === "nothing") {
    drafts.forget(id);
    void ask();
  } else {
    history = changed(history, view.drink, "", Date.now());
    put(draft.drink);
    if (draft.kind === "conflict") {
      standing = { ...standing, saving: { phase: "conflict", theirs: view } };
      clearTimeout(saveTimer);
      set({ saving: standing.saving });
    }
  }
  return {
    id,
    store,
    edit,
    rest,
    tryEdit,
    again,
    undo: () => step(undone),
    redo: () => step(redone),
    keepMine: () => tell({ type: "keep mine" }),
    takeTheirs,
    changedElsewhere,
    enter,
    leave,
  };
}

export type Editor = ReturnType<typeof createEditor>;
