import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { CallFailed, type PlanFile, type PlanView, type Problem } from "../api/client";
import { createPlanEditor, type PlanServer } from "./planEditor";
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

  it("saves the newest state, one save after the other", async () => {
    const saves: [number, string][] = [];
    const server: PlanServer = {
      save: async (_, version, p) => {
        saves.push([version, p.name]);
        await Promise.resolve();
        return view(version + 1, p);
      },
      read: () => Promise.resolve(view(1)),
    };
    const editor = createPlanEditor(view(1), server);
    editor.edit(named("One"));
    editor.edit(named("Two"));
    await vi.advanceTimersByTimeAsync(400);
    editor.edit(named("Three"));
    await vi.advanceTimersByTimeAsync(400);
    expect(saves).toEqual([
      [1, "Two"],
      [2, "Three"],
    ]);
    expect(editor.store.getState().word).toBe("saved");
    editor.undo();
    expect(editor.store.getState().plan.name).toBe("Two");
    editor.redo();
    expect(editor.store.getState().plan.name).toBe("Three");
  });

  it("tries again while nobody answers, and says so", async () => {
    let tries = 0;
    const server: PlanServer = {
      save: (_, version, p) =>
        ++tries < 3
          ? Promise.reject(new CallFailed(undefined))
          : Promise.resolve(view(version + 1, p)),
      read: () => Promise.resolve(view(1)),
    };
    const editor = createPlanEditor(view(1), server);
    editor.edit(named("One"));
    await vi.advanceTimersByTimeAsync(400);
    expect(editor.store.getState().word).toBe("not saved yet");
    await vi.advanceTimersByTimeAsync(6100);
    expect([tries, editor.store.getState().word]).toEqual([3, "saved"]);
  });

  it("shows what another window was faster with, and undo brings one's own back", async () => {
    const theirs = view(5, { ...plan, name: "Theirs" });
    const stale = { status: 409, detail: "Changed." } as Problem;
    const server: PlanServer = {
      save: () => Promise.reject(new CallFailed(stale)),
      read: () => Promise.resolve(theirs),
    };
    const editor = createPlanEditor(view(1), server);
    editor.edit(named("Mine"));
    await vi.advanceTimersByTimeAsync(400);
    expect(editor.store.getState().plan.name).toBe("Theirs");
    expect(editor.store.getState().wrong).toContain("another window");
    editor.undo();
    expect(editor.store.getState().plan.name).toBe("Mine");
  });

  it("hears of other windows while nothing of one's own is on its way", () => {
    const server = {} as PlanServer;
    const editor = createPlanEditor(view(1), server);
    editor.hear(view(2, { ...plan, name: "Heard" }));
    expect(editor.store.getState().plan.name).toBe("Heard");
    editor.edit(named("Mine"));
    editor.hear(view(3, { ...plan, name: "Too late" }));
    expect(editor.store.getState().plan.name).toBe("Mine");
  });
});
