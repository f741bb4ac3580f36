import { replaceEqualDeep } from "@tanstack/react-query";
import { createStore } from "zustand/vanilla";
import {
  answer,
  api,
  CallFailed,
  type Drink,
  type DrinkReport,
  type DrinkView,
  type Problem,
} from "../api/client";

/** How the drink on the screen stands with the shelf. */
export type SaveState = "saved" | "saving" | "unreachable" | "conflict";

export interface EditorState {
  drink: Drink;
  /** The last answer of the core, with the drink that it is about: it stays until the next is there. */
  shown: { drink: Drink; report: DrinkReport } | undefined;
  /** What the core said of the last change that can't be made. */
  problem: Problem | undefined;
  save: SaveState;
  /** After a conflict: the drink as it stands on the shelf. */
  theirs: DrinkView | undefined;
  canUndo: boolean;
  canRedo: boolean;
}

/** Changes of the same thing within this time are one step of undo. */
const SAME_GESTURE_MS = 1200;
const SAVE_AFTER_MS = 350;
const TRY_AGAIN_MS = 3000;
const MOST_UNDO = 200;

/**
 * Holds one open drink: changes it, asks the core what that comes to, and saves by itself.
 *
 * Only one question to the core is on its way at a time; when it is answered and the drink has
 * changed meanwhile, the newest state is asked next. So the latest answer wins, and a slow machine
 * is never flooded by a drag.
 */
export function createEditor(view: DrinkView) {
  const store = createStore<EditorState>(() => ({
    drink: view.drink,
    shown: undefined,
    problem: undefined,
    save: "saved",
    theirs: undefined,
    canUndo: false,
    canRedo: false,
  }));
  const { getState: get, setState: set } = store;
  const path = { params: { path: { id: view.id } } };

  let version = view.version;
  let kept: Drink = view.drink;
  let past: Drink[] = [];
  let future: Drink[] = [];
  let lastGesture = { name: "", at: 0 };
  let asking = false;
  let askedFor: Drink | undefined;
  let timer: ReturnType<typeof setTimeout> | undefined;
  let writing = false;
  let open = true;

  async function ask() {
    if (asking) return;
    asking = true;
    while (askedFor !== get().drink) {
      askedFor = get().drink;
      try {
        const report = await answer(api.POST("/api/compute/trace", { body: askedFor }));
        // What has not changed stays the same object, so that it is not drawn again.
        set({
          shown: { drink: askedFor, report: replaceEqualDeep(get().shown?.report, report) },
          problem: undefined,
        });
        if (get().save === "unreachable") saveSoon(0);
      } catch (error) {
        set({ problem: (error as CallFailed).problem });
        if ((error as CallFailed).problem === undefined) set({ save: "unreachable" });
      }
    }
    asking = false;
  }

  function saveSoon(after = SAVE_AFTER_MS) {
    clearTimeout(timer);
    timer = setTimeout(() => void save(), after);
  }

  async function save(keepalive = false) {
    if (writing || get().save === "conflict" || get().drink === kept) return;
    writing = true;
    const drink = get().drink;
    set({ save: "saving" });
    try {
      const saved = await answer(
        api.PUT("/api/drinks/{id}", { ...path, body: { version, drink }, keepalive }),
      );
      version = saved.version;
      kept = drink;
      set({ save: "saved" });
    } catch (error) {
      const problem = (error as CallFailed).problem;
      if (problem?.current) set({ save: "conflict", theirs: problem.current });
      else if (problem?.status && problem.status < 500) set({ save: "saved", problem });
      else {
        set({ save: "unreachable" });
        if (open) saveSoon(TRY_AGAIN_MS);
      }
    }
    writing = false;
    if (get().save === "saved" && get().drink !== kept && get().problem === undefined) saveSoon();
  }

  function put(drink: Drink) {
    set({ drink, canUndo: past.length > 0, canRedo: future.length > 0 });
    void ask();
    saveSoon();
  }

  function edit(change: (drink: Drink) => Drink, gesture = "") {
    const before = get().drink;
    const after = change(before);
    if (after === before) return;
    const at = Date.now();
    const goesOn =
      gesture !== "" && gesture === lastGesture.name && at - lastGesture.at < SAME_GESTURE_MS;
    lastGesture = { name: gesture, at };
    if (!goesOn) past = [...past.slice(1 - MOST_UNDO), before];
    future = [];
    put(after);
  }

  /** Makes a change only if the core can run it; otherwise says why not and leaves all as it is. */
  async function tryEdit(change: (drink: Drink) => Drink): Promise<string | undefined> {
    const after = change(get().drink);
    try {
      await answer(api.POST("/api/compute/trace", { body: after }));
    } catch (error) {
      return (error as Error).message;
    }
    edit(change);
    return undefined;
  }

  function undo() {
    const before = past.at(-1);
    if (!before) return;
    past = past.slice(0, -1);
    future = [get().drink, ...future];
    lastGesture = { name: "", at: 0 };
    put(before);
  }

  function redo() {
    const [after, ...rest] = future;
    if (!after) return;
    future = rest;
    past = [...past, get().drink];
    lastGesture = { name: "", at: 0 };
    put(after);
  }

  /** Settles a conflict: what is on this screen goes on the shelf over the other change. */
  function keepMine() {
    const { theirs } = get();
    if (!theirs) return;
    version = theirs.version;
    kept = theirs.drink;
    set({ save: "saved", theirs: undefined });
    void save();
  }

  /** Settles a conflict: the other change comes onto this screen; undo brings this one back. */
  function takeTheirs() {
    const { theirs } = get();
    if (!theirs) return;
    version = theirs.version;
    kept = theirs.drink;
    set({ save: "saved", theirs: undefined });
    edit(() => theirs.drink);
  }

  /** Asks the core again about the same drink: the cupboard knows better now. */
  function again() {
    askedFor = undefined;
    void ask();
  }

  function close() {
    open = false;
    clearTimeout(timer);
    void save(true);
  }

  void ask();
  return {
    store,
    edit,
    tryEdit,
    again,
    undo,
    redo,
    keepMine,
    takeTheirs,
    flush: () => save(true),
    close,
  };
}

export type Editor = ReturnType<typeof createEditor>;
