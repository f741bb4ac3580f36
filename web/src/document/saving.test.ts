import { describe, expect, it } from "vitest";
import type { Problem } from "../api/client";
import {
  type Event as EventOf,
  isUnsaved,
  type Kept,
  next,
  type Standing as StandingOf,
} from "./saving";

interface Text {
  readonly text: string;
}
type Event = EventOf<Text>;
type Standing = StandingOf<Text>;

const of = (text: string): Text => ({ text });
const one = of("one");
const two = of("two");
const three = of("three");
const begin: Standing = { content: one, kept: one, version: 1, saving: { phase: "saved" } };
const view = (version: number, content: Text): Kept<Text> => ({
  version,
  changed_at: "",
  content,
});
const problem = { title: "no", detail: "no", status: 422 } as Problem;

function after(...events: Event[]): Standing {
  return events.reduce<Standing>(next, begin);
}

describe("saving", () => {
  it("writes what was changed, and is saved when that has arrived", () => {
    const writing = after({ type: "changed", content: two }, { type: "write", key: "k1" });
    expect(writing.saving).toEqual({ phase: "writing", content: two, key: "k1" });
    const saved = next(writing, { type: "arrived", version: 2 });
    expect(saved).toMatchObject({ kept: two, version: 2, saving: { phase: "saved" } });
    expect(isUnsaved(saved)).toBe(false);
  });

  it("is not saved when something was changed while it was on its way", () => {
    const s = after(
      { type: "changed", content: two },
      { type: "write", key: "k1" },
      { type: "changed", content: three },
      { type: "arrived", version: 2 },
    );
    expect(s).toMatchObject({ content: three, kept: two, version: 2, saving: { phase: "due" } });
  });

  it("tries the same again under the same key when there was no answer", () => {
    const s = after(
      { type: "changed", content: two },
      { type: "write", key: "k1" },
      { type: "failed", why: "no answer" },
      { type: "changed", content: three },
      { type: "write", key: "k2" },
    );
    expect(s.saving).toEqual({ phase: "writing", content: two, key: "k1" });
    expect(next(s, { type: "arrived", version: 2 }).saving.phase).toBe("due");
  });

  it("never says saved of what was refused, and tries again with the next change", () => {
    const refused = after(
      { type: "changed", content: two },
      { type: "write", key: "k1" },
      { type: "refused", problem },
    );
    expect(refused.saving).toEqual({ phase: "refused", problem });
    expect(isUnsaved(refused)).toBe(true);
    const changed = next(refused, { type: "changed", content: three });
    expect(changed.saving.phase).toBe("due");
    // Refused while it had been changed already: the change is worth a try.
    const overtaken = after(
      { type: "changed", content: two },
      { type: "write", key: "k1" },
      { type: "changed", content: three },
      { type: "refused", problem },
    );
    expect(overtaken.saving.phase).toBe("due");
  });

  it("is saved again when a change is taken back before it was written", () => {
    const s = after({ type: "changed", content: two }, { type: "changed", content: one });
    expect(s.saving.phase).toBe("saved");
    expect(next(s, { type: "write", key: "k1" }).saving.phase).toBe("saved");
  });

  it("takes another window's change at once when nothing of its own stands in the way", () => {
    const s = after({ type: "overtaken", theirs: view(2, two) });
    expect(s).toMatchObject({ content: two, kept: two, version: 2, saving: { phase: "saved" } });
    expect(next(s, { type: "overtaken", theirs: view(2, three) })).toBe(s);
  });

  it("asks which change goes on the shelf, and does as it is told", () => {
    const conflict = after(
      { type: "changed", content: two },
      { type: "write", key: "k1" },
      { type: "overtaken", theirs: view(5, three) },
    );
    expect(conflict.saving).toEqual({ phase: "conflict", theirs: view(5, three) });
    expect(next(conflict, { type: "write", key: "k2" })).toBe(conflict);
    const mine = next(conflict, { type: "keep mine" });
    expect(mine).toMatchObject({ content: two, kept: three, version: 5, saving: { phase: "due" } });
    const theirs = next(conflict, { type: "take theirs" });
    expect(theirs).toMatchObject({ content: three, version: 5, saving: { phase: "saved" } });
    const later = next(conflict, { type: "changed", content: one });
    expect(later.saving.phase).toBe("conflict");
  });

  it("ignores answers that come when nothing is on its way", () => {
    for (const event of [
      { type: "arrived", version: 9 },
      { type: "failed", why: "late" },
      { type: "refused", problem },
      { type: "keep mine" },
      { type: "take theirs" },
    ] as Event[]) {
      expect(next(begin, event)).toBe(begin);
    }
  });
});
