import { replaceEqualDeep } from "@tanstack/react-query";
import { createStore } from "zustand/vanilla";
import type { CallFailed, Drink, DrinkReport, DrinkView, Problem } from "../../api/client";
import { createDocument, type DocumentState } from "../../document/document";
import type { Drafts } from "../../document/draft";
import { keptDrink, kitchenServer, type Server } from "./server";

export interface EditorState extends Omit<DocumentState<Drink>, "content"> {
  drink: Drink;
  /** The last answer of the core, with the drink that it is about: it stays until the next is there. */
  shown: { drink: Drink; report: DrinkReport } | undefined;
  /** What the core said of the last change that can't be made. */
  problem: Problem | undefined;
  /** Why the core can't be asked at the moment. */
  silence: string | undefined;
  /** So many typed changes are being tried, and aren't part of the drink yet. */
  trying: number;
}

/** A question that had no answer is asked again after this, and then ever more rarely. */
const ASK_AGAIN_MS = [500, 1000, 2000, 4000, 8000];

/**
 * Holds one open drink: a document that is saved by itself, and what the core says of it.
 *
 * Only one question to the core is on its way at a time; when it is answered and the drink has
 * changed meanwhile, the newest state is asked next. So the latest answer wins, and a slow machine
 * is never flooded by a drag.
 */
export function createEditor(
  view: DrinkView,
  server: Server = kitchenServer,
  drafts?: Drafts<Drink>,
) {
  const { id } = view;
  const document = createDocument(id, keptDrink(view), server, drafts);
  const of = ({ content, ...rest }: DocumentState<Drink>) => ({ drink: content, ...rest });
  const store = createStore<EditorState>(() => ({
    ...of(document.store.getState()),
    shown: undefined,
    problem: undefined,
    silence: undefined,
    trying: 0,
  }));
  const { getState: get, setState: set } = store;
  let asking = false;
  let askedFor: Drink | undefined;
  /** An amount is being dragged: only what moves is asked for, the whole when it comes to rest. */
  let passing = false;
  let failures = 0;
  let askTimer: ReturnType<typeof setTimeout> | undefined;
  let open = true;
  document.store.subscribe((now, before) => {
    set(of(now));
    if (now.content !== before.content) void ask();
  });

  async function ask() {
    if (asking) return;
    asking = true;
    clearTimeout(askTimer);
    while (open && askedFor !== document.content()) {
      const drink = document.content();
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

  /** Makes a change. `onItsWay` says that more of the same gesture follows, until `rest`. */
  function edit(change: (drink: Drink) => Drink, gesture = "", onItsWay = false) {
    passing = onItsWay;
    document.edit(change, gesture, onItsWay);
  }

  /** The gesture has ended. */
  function rest() {
    document.rest();
    if (!passing) return;
    passing = false;
    again();
  }

  /** Makes a change only if the core can run it; otherwise says why not and leaves all as it is. */
  async function tryEdit(change: (drink: Drink) => Drink): Promise<string | undefined> {
    set({ trying: get().trying + 1 });
    try {
      await server.trace(change(document.content()));
      // On top of whatever has been changed while that was asked.
      edit(change);
      return undefined;
    } catch (error) {
      return (error as Error).message;
    } finally {
      set({ trying: get().trying - 1 });
    }
  }

  /** Asks the core again about the same drink: the cupboard knows better now, or the cook asks again. */
  function again() {
    askedFor = undefined;
    void ask();
  }

  /** It comes onto the screen; the answer takes it off again. */
  function enter() {
    open = true;
    document.enter();
    void ask();
    return () => {
      document.close();
      open = false;
      clearTimeout(askTimer);
    };
  }

  void ask();
  const { undo, redo, keepMine, takeTheirs, changedElsewhere, leave } = document;
  return {
    id,
    store,
    edit,
    rest,
    tryEdit,
    again,
    undo,
    redo,
    keepMine,
    takeTheirs,
    changedElsewhere,
    enter,
    leave,
  };
}

export type Editor = ReturnType<typeof createEditor>;
