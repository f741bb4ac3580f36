import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { CallFailed, type PlanFile, type PlanView } from "../api/client";
import type { Store } from "../document/document";
import type { Draft, Drafts } from "../document/draft";
import { createPlanEditor, keptPlan } from "./planEditor";
import { helped, served, withDrink, withoutDrink } from "./changes";

const plan: PlanFile = {
  name: "Party",
  serving: "2030-06-22T15:00",
  drinks: [
    { id: "a", drink: "x" },
    { id: "b", drink: "y", serving: "2030-06-22T16:00" },
  ],
  holds: [{ task: "b/1/s2", at: "2030-06-22T09:00" }],
  after: [{ task: "a/1/s1", after: "b/1/s2" }],
  ahead: ["b/s4"],
};
const view = (version: number, of: PlanFile = plan): PlanView => ({
  id: "p",
  version,
  changed_at: "",
  plan: of,
});
const named = (name: string) => (p: PlanFile) => ({ ...p, name });

describe("changes of a plan", () => {
  it("moves everything that has a time of its own along with the serving", () => {
    const later = served(plan, "2030-06-23T15:30");
    expect(later.drinks![1]!.serving).toBe("2030-06-23T16:30");
    expect(later.holds![0]!.at).toBe("2030-06-23T09:30");
    expect(later.drinks![0]!.serving).toBeUndefined();
    expect(served(plan, "no time")).toBe(plan);
  });

  it("puts a drink in under a letter of its own, and takes all of it out again", () => {
    const more = withDrink(withDrink(plan, "z", "Zed"), "z", "Zed");
    expect(more.drinks!.map((d) => d.id)).toEqual(["a", "b", "c", "d"]);
    const less = withoutDrink(more, "b");
    expect(less.drinks!.map((d) => d.id)).toEqual(["a", "c", "d"]);
    expect([less.holds, less.after, less.ahead]).toEqual([[], [], []]);
  });

  it("does what would help", () => {
    expect(helped(plan, "cook").means).toEqual({ cooks: 2, rings: 4, refrigerator_l: 30 });
    expect(helped(plan, "ring").means!.rings).toBe(5);
    expect(helped(plan, { vessel: "Big pot" })).toBe(plan);
    expect(helped(plan, { ahead: "a/s9" }).ahead).toEqual(["b/s4", "a/s9"]);
    expect(helped(plan, { water_bath: "a/1/s7" }).drinks![0]!.water_bath).toEqual(["s7"]);
  });
});

describe("an open plan", () => {
  beforeEach(() => void vi.useFakeTimers());
  afterEach(() => void vi.useRealTimers());

  /** What keeps plans: a server that answers by request key, or doesn't; and no storage in the browser. */
  function keeper() {
    let kept = view(1);
    const state = { away: false, loseAnswers: 0, saves: [] as [number, string][] };
    const answered = new Map<string, PlanView>();
    const drafts = new Map<string, Draft<PlanFile>>();
    const server: Store<PlanFile> = {
      async save(_, version, of, key) {
        await Promise.resolve();
        if (state.away) throw new CallFailed(undefined);
        const before = answered.get(key);
        if (before) return keptPlan(before);
        state.saves.push([version, of.name]);
        if (version !== kept.version) {
          throw new CallFailed({ type: "stale", status: 409, title: "", detail: "Changed." });
        }
        kept = view(version + 1, of);
        answered.set(key, kept);
        if (state.loseAnswers-- > 0) throw new CallFailed(undefined);
        return keptPlan(kept);
      },
      read: () => Promise.resolve(keptPlan(kept)),
    };
    const inMemory: Drafts<PlanFile> = {
      read: (id) => drafts.get(id),
      write: (id, draft) => void drafts.set(id, draft),
      forget: (id) => void drafts.delete(id),
    };
    return {
      state,
      drafts,
      kept: () => kept,
      elsewhere: (name: string) => (kept = view(kept.version + 1, named(name)(plan))),
      open: () => createPlanEditor(kept, server, inMemory),
    };
  }

  it("saves the newest state, one save after the other", async () => {
    const k = keeper();
    const editor = k.open();
    editor.edit(named("One"));
    editor.edit(named("Two"));
    await vi.advanceTimersByTimeAsync(400);
    editor.edit(named("Three"));
    await vi.advanceTimersByTimeAsync(400);
    expect(k.state.saves).toEqual([
      [1, "Two"],
      [2, "Three"],
    ]);
    expect(editor.store.getState().saving.phase).toBe("saved");
    editor.undo();
    expect(editor.content().name).toBe("Two");
    editor.redo();
    expect(editor.content().name).toBe("Three");
  });

  it("tries again while nobody answers, and keeps a draft meanwhile", async () => {
    const k = keeper();
    k.state.away = true;
    const editor = k.open();
    editor.edit(named("One"));
    await vi.advanceTimersByTimeAsync(400);
    expect(editor.store.getState().saving.phase).toBe("waiting");
    expect(k.drafts.get("p")?.content.name).toBe("One");
    // The window is closed; the draft is there when the plan is opened again.
    editor.close();
    k.state.away = false;
    const again = k.open();
    expect(again.content().name).toBe("One");
    await vi.advanceTimersByTimeAsync(400);
    expect([k.kept().plan.name, k.drafts.size]).toEqual(["One", 0]);
  });

  it("isn't told that another window was faster when only the answer was lost", async () => {
    const k = keeper();
    k.state.loseAnswers = 1;
    const editor = k.open();
    editor.edit(named("Once"));
    await vi.advanceTimersByTimeAsync(4000);
    expect(k.state.saves).toHaveLength(1);
    expect(editor.store.getState()).toMatchObject({
      content: { name: "Once" },
      saving: { phase: "saved" },
    });
  });

  it("lets the cook choose when another window was faster", async () => {
    const k = keeper();
    const editor = k.open();
    k.elsewhere("Theirs");
    editor.edit(named("Mine"));
    await vi.advanceTimersByTimeAsync(400);
    expect(editor.store.getState().saving.phase).toBe("conflict");
    expect(editor.content().name).toBe("Mine");
    editor.takeTheirs();
    expect(editor.content().name).toBe("Theirs");
    editor.undo();
    await vi.advanceTimersByTimeAsync(400);
    expect(k.kept().plan.name).toBe("Mine");
  });

  it("takes in what it hears of other windows, unless it has changes of its own", () => {
    const editor = keeper().open();
    editor.heard(keptPlan(view(2, named("Heard")(plan))));
    expect(editor.content().name).toBe("Heard");
    editor.edit(named("Mine"));
    editor.heard(keptPlan(view(3, named("Too late")(plan))));
    expect(editor.content().name).toBe("Mine");
    expect(editor.store.getState().saving.phase).toBe("conflict");
  });
});
