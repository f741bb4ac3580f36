import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import {
  CallFailed,
  type Drink,
  type DrinkReport,
  type DrinkView,
  type Glance,
} from "../../api/client";
import type { Draft, Drafts } from "../../document/draft";
import { createEditor } from "./editor";
import { keptDrink, type Server } from "./server";

const drink = (note: string) =>
  ({ name: "Lime", family: "lemonade", note, vessels: [], steps: [] }) as Drink;
const report = (of: Drink) =>
  ({ frames: [], minutes: of.note?.length ?? 0 }) as unknown as DrinkReport;
let ids = 0;

/** A shelf with one drink on it, that answers, is away, or refuses. */
function kitchen() {
  let kept: DrinkView = { id: `d${(ids += 1)}`, version: 1, drink: drink("") } as DrinkView;
  const keys = new Map<string, DrinkView>();
  const state = { away: false, refuses: false, loseAnswers: 0, traced: [] as string[], saves: 0 };
  const drafts = new Map<string, Draft<Drink>>();
  const server: Server = {
    trace(of) {
      state.traced.push(of.note ?? "");
      if (state.away) return Promise.reject(new CallFailed(undefined));
      return Promise.resolve(report(of));
    },
    glance: (of) => Promise.resolve({ vessels: [], lines: [of.note] } as unknown as Glance),
    save(_, version, of, key) {
      state.saves += 1;
      if (state.away) return Promise.reject(new CallFailed(undefined));
      const before = keys.get(key);
      if (before) return Promise.resolve(keptDrink(before));
      if (state.refuses) {
        return Promise.reject(
          new CallFailed({ type: "invalid", title: "", status: 422, detail: "no" }),
        );
      }
      if (version !== kept.version) {
        const stale = { type: "stale", title: "", status: 409, detail: "elsewhere" };
        return Promise.reject(new CallFailed(stale));
      }
      kept = { ...kept, version: version + 1, drink: of };
      keys.set(key, kept);
      if (state.loseAnswers > 0) {
        state.loseAnswers -= 1;
        return Promise.reject(new CallFailed(undefined));
      }
      return Promise.resolve(keptDrink(kept));
    },
    read: () => Promise.resolve(keptDrink(kept)),
  };
  const inMemory: Drafts<Drink> = {
    read: (id) => drafts.get(id),
    write: (id, draft) => void drafts.set(id, JSON.parse(JSON.stringify(draft)) as Draft<Drink>),
    forget: (id) => void drafts.delete(id),
  };
  return {
    state,
    drafts,
    kept: () => kept,
    elsewhere(note: string) {
      kept = { ...kept, version: kept.version + 1, drink: drink(note) };
      return kept;
    },
    open: () => createEditor(kept, server, inMemory),
  };
}

const note = (text: string) => (of: Drink) => ({ ...of, note: text });
const pass = (ms: number) => vi.advanceTimersByTimeAsync(ms);

describe("the editor", () => {
  beforeEach(() => void vi.useFakeTimers());
  afterEach(() => void vi.useRealTimers());

  it("saves by itself, the newest state only", async () => {
    const k = kitchen();
    const editor = k.open();
    for (const text of ["a", "ab", "abc"]) editor.edit(note(text), "typing");
    expect(editor.store.getState().saving.phase).toBe("due");
    await pass(400);
    expect(k.state.saves).toBe(1);
    expect(k.kept()).toMatchObject({ version: 2, drink: { note: "abc" } });
    expect(editor.store.getState().saving.phase).toBe("saved");
    expect(k.drafts.size).toBe(0);
  });

  it("shows the newest answer and asks again when there was none", async () => {
    const k = kitchen();
    k.state.away = true;
    const editor = k.open();
    await pass(0);
    expect(editor.store.getState()).toMatchObject({ shown: undefined });
    expect(editor.store.getState().silence).toContain("isn't answering");
    k.state.away = false;
    await pass(600);
    expect(editor.store.getState().shown?.drink.note).toBe("");
    editor.edit(note("abc"));
    await pass(1);
    expect(editor.store.getState()).toMatchObject({ silence: undefined });
    expect(editor.store.getState().shown?.drink.note).toBe("abc");
  });

  it("keeps a draft until the shelf has it, and brings it back after the window was closed", async () => {
    const k = kitchen();
    const editor = k.open();
    k.state.away = true;
    editor.edit(note("not lost"));
    await pass(400);
    expect(editor.store.getState().saving.phase).toBe("waiting");
    expect(k.drafts.size).toBe(1);
    // The window is gone without a word. Later the drink is opened again.
    k.state.away = false;
    const again = k.open();
    expect(again.store.getState().drink.note).toBe("not lost");
    await pass(400);
    expect(k.kept().drink.note).toBe("not lost");
    expect(k.drafts.size).toBe(0);
  });

  it("keeps the last edit when the window is closed during a save", async () => {
    const k = kitchen();
    const editor = k.open();
    editor.edit(note("first"));
    await vi.advanceTimersByTimeAsync(349);
    vi.advanceTimersByTime(1);
    expect(editor.store.getState().saving.phase).toBe("writing");
    editor.edit(note("second"));
    editor.leave();
    // The save arrives, nobody is there to hear of it.
    expect(k.kept().drink.note).toBe("first");
    const again = k.open();
    expect(again.store.getState().drink.note).toBe("second");
    expect(again.store.getState().saving.phase).not.toBe("conflict");
    await pass(400);
    expect(k.kept().drink.note).toBe("second");
  });

  it("saves once what was saved but not answered", async () => {
    const k = kitchen();
    const editor = k.open();
    k.state.loseAnswers = 1;
    editor.edit(note("once"));
    await pass(4000);
    expect(k.kept().version).toBe(2);
    expect(editor.store.getState().saving.phase).toBe("saved");
  });

  it("never says saved of what is refused", async () => {
    const k = kitchen();
    const editor = k.open();
    k.state.refuses = true;
    editor.edit(note("bad"));
    await pass(10_000);
    expect(editor.store.getState().saving).toMatchObject({
      phase: "refused",
      problem: { detail: "no" },
    });
    k.state.refuses = false;
    editor.edit(note("good"));
    await pass(400);
    expect(editor.store.getState().saving.phase).toBe("saved");
  });

  it("takes in what another window changes, as a step that can be undone", async () => {
    const k = kitchen();
    const editor = k.open();
    await editor.changedElsewhere(k.elsewhere("theirs").version);
    expect(editor.store.getState()).toMatchObject({ drink: { note: "theirs" }, canUndo: true });
    editor.undo();
    await pass(400);
    expect(k.kept()).toMatchObject({ version: 3, drink: { note: "" } });
  });

  it("lets one choose when both have changed it", async () => {
    const k = kitchen();
    const editor = k.open();
    k.elsewhere("theirs");
    editor.edit(note("mine"));
    await pass(400);
    expect(editor.store.getState().saving.phase).toBe("conflict");
    editor.keepMine();
    await pass(400);
    expect(k.kept()).toMatchObject({ version: 3, drink: { note: "mine" } });
    k.elsewhere("theirs again");
    editor.edit(note("mine again"));
    await pass(400);
    editor.takeTheirs();
    expect(editor.store.getState().drink.note).toBe("theirs again");
    editor.undo();
    expect(editor.store.getState().drink.note).toBe("mine again");
  });

  it("asks only for what moves while an amount is dragged, and for the whole when it rests", async () => {
    const k = kitchen();
    const editor = k.open();
    await pass(1);
    expect(k.state.traced).toEqual([""]);
    for (const text of ["a", "ab"]) {
      editor.edit(note(text), "drag", true);
      await pass(1);
    }
    expect(k.state.traced).toEqual([""]);
    expect(editor.store.getState().shown?.report).toMatchObject({ lines: ["ab"], minutes: 0 });
    editor.rest();
    await pass(1);
    expect(k.state.traced).toEqual(["", "ab"]);
    expect(editor.store.getState().shown?.report).toMatchObject({ minutes: 2 });
  });

  it("undoes by gesture, and remembers it while another drink is open", async () => {
    const k = kitchen();
    const editor = k.open();
    const leave = editor.enter();
    for (const text of ["a", "ab", "abc"]) editor.edit(note(text), "drag 1");
    for (const text of ["abcd", "abcde"]) editor.edit(note(text), "drag 2");
    await pass(400);
    leave();
    const again = k.open();
    expect(again.store.getState().canUndo).toBe(true);
    again.undo();
    expect(again.store.getState().drink.note).toBe("abc");
    again.undo();
    expect(again.store.getState()).toMatchObject({ drink: { note: "" }, canUndo: false });
    again.redo();
    expect(again.store.getState().drink.note).toBe("abc");
  });

  it("makes a doubtful change only if the core can run it", async () => {
    const k = kitchen();
    const editor = k.open();
    await pass(1);
    k.state.away = true;
    const why = await editor.tryEdit(note("x"));
    expect(why).toContain("isn't answering");
    expect(editor.store.getState().drink.note).toBe("");
    k.state.away = false;
    const tried = editor.tryEdit(note("x"));
    // Until the core has said yes, it is neither in the drink nor called saved.
    expect(editor.store.getState()).toMatchObject({ drink: { note: "" }, trying: 1 });
    expect(await tried).toBeUndefined();
    expect(editor.store.getState()).toMatchObject({ drink: { note: "x" }, trying: 0 });
  });
});
