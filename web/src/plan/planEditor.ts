import { createStore } from "zustand/vanilla";
import {
  answer,
  api,
  outlivesThePage,
  type CallFailed,
  type PlanFile,
  type PlanView,
} from "../api/client";
import { changed, noHistory, redone, undone, type History } from "../ui/history";
import { newKey } from "../api/newKey";

const SAVE_AFTER_MS = 350;
const TRY_AGAIN_MS = 3000;

export type Edit = (change: (plan: PlanFile) => PlanFile, gesture?: string) => void;

/** What a plan's editor asks of the server. */
export interface PlanServer {
  save(id: string, version: number, plan: PlanFile, leaving: boolean): Promise<PlanView>;
  read(id: string): Promise<PlanView>;
}

const path = (id: string) => ({ params: { path: { id } } });

const kitchenServer: PlanServer = {
  save: (id, version, plan, leaving) => {
    const body = { version, plan };
    return answer(
      api.PUT("/api/plans/{id}", {
        ...path(id),
        body,
        headers: { "idempotency-key": newKey() },
        keepalive: leaving && outlivesThePage(body),
      }),
    );
  },
  read: (id) => answer(api.GET("/api/plans/{id}", path(id))),
};

export interface PlanState {
  plan: PlanFile;
  /** How it stands with the shelf, in a word. */
  word: string;
  wrong: string | undefined;
  canUndo: boolean;
  canRedo: boolean;
}

/**
 * An open plan: every change is saved by itself, one save after the other. Where another window was faster,
 * its plan is shown, and undo brings one's own back.
 */
export function createPlanEditor(view: PlanView, server: PlanServer = kitchenServer) {
  const { id } = view;
  let kept = { plan: view.plan, version: view.version };
  let history: History<PlanFile> = noHistory;
  let timer: ReturnType<typeof setTimeout> | undefined;
  let writing = false;
  const store = createStore<PlanState>(() => ({
    plan: view.plan,
    word: "",
    wrong: undefined,
    canUndo: false,
    canRedo: false,
  }));
  const { getState: get, setState: set } = store;

  function put(plan: PlanFile) {
    set({ plan, canUndo: history.past.length > 0, canRedo: history.future.length > 0 });
  }

  function soon(after = SAVE_AFTER_MS) {
    clearTimeout(timer);
    timer = setTimeout(() => void save(), after);
  }

  const edit: Edit = (change, gesture = "") => {
    const before = get().plan;
    const after = change(before);
    if (after === before) return;
    history = changed(history, before, gesture, Date.now());
    put(after);
    set({ word: "saving" });
    soon();
  };

  function step(move: typeof undone<PlanFile>) {
    const moved = move(history, get().plan);
    if (!moved) return;
    history = moved[1];
    put(moved[0]);
    set({ word: "saving" });
    soon();
  }

  /** Another window's plan comes onto the screen. */
  function take(theirs: PlanView) {
    const mine = get().plan;
    kept = { plan: theirs.plan, version: theirs.version };
    if (JSON.stringify(mine) === JSON.stringify(theirs.plan)) return;
    history = changed(history, mine, "", Date.now());
    put(theirs.plan);
  }

  async function save(leaving = false): Promise<void> {
    clearTimeout(timer);
    const mine = get().plan;
    if (writing || mine === kept.plan) return;
    writing = true;
    let again: number | undefined;
    try {
      const saved = await server.save(id, kept.version, mine, leaving);
      kept = { plan: mine, version: saved.version };
      set({ wrong: undefined, word: "saved" });
      if (get().plan !== mine) again = 0;
    } catch (error) {
      const failed = error as CallFailed;
      if (failed.problem?.status === 409) {
        try {
          take(await server.read(id));
          const wrong =
            "Someone changed this plan in another window. Undo to get your version back.";
          set({ wrong, word: "saved" });
        } catch {
          again = TRY_AGAIN_MS;
        }
      } else {
        set({ wrong: failed.message, word: failed.mayPass ? "not saved yet" : "not saved" });
        if (failed.mayPass) again = TRY_AGAIN_MS;
      }
    }
    writing = false;
    if (again !== undefined) soon(again);
  }

  return {
    store,
    edit,
    undo: () => step(undone),
    redo: () => step(redone),
    /** What was heard of the shelf: shown, unless something of one's own is on its way. */
    hear(theirs: PlanView) {
      if (theirs.version > kept.version && get().plan === kept.plan) take(theirs);
    },
    /** What is not saved yet is sent along when the window goes. */
    leave: () => void save(true),
  };
}
