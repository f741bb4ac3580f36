import { describe, expect, it } from "vitest";
import type { Drink, DrinkView, Problem } from "../../api/client";
import { type Event, isUnsaved, next, type Standing } from "./saving";

const drink = (name: string) => ({ name, family: "lemonade", vessels: [], steps: [] }) as Drink;
const one = drink("one");
const two = drink("two");
const three = drink("three");
const begin: Standing = { drink: one, kept: one, version: 1, saving: { phase: "saved" } };
const view = (version: number, of: Drink) => ({ id: "a", version, drink: of }) as DrinkView;
const problem = { title: "no", detail: "no", status: 422 } as Problem;

function after(...events: Event[]): Standing {
  return events.reduce(next, begin);
}

describe("saving", () => {
  it("writes what was changed, and is saved when that has arrived", () => {
    const writing = after({ type: "changed", drink: two }, { type: "write", key: "k1" });
    expect(writing.saving).toEqual({ phase: "writing", drink: two, key: "k1" });
    const saved = next(writing, { type: "arrived", version: 2 });
    expect(saved).toMatchObject({ kept: two, version: 2, saving: { phase: "saved" } });
    expect(isUnsaved(saved)).toBe(false);
  });

  it("is not saved when something was changed while it was on its way", () => {
    const s = after(
      { type: "changed", drink: two },
      { type: "write", key: "k1" },
      { type: "changed", drink: three },
      { type: "arrived", version: 2 },
    );
    expect(s).toMatchObject({ drink: three, kept: two, version: 2, saving: { phase: "due" } });
  });

  it("tries the same again under the same key when there was no answer", () => {
    const s = after(
      { type: "changed", drink: two },
      { type: "write", key: "k1" },
      { type: "failed", why: "no answer" },
      { type: "changed", drink: three },
      { type: "write", key: "k2" },
    );
    expect(s.saving).toEqual({ phase: "writing", drink: two, key: "k1" });
    expect(next(s, { type: "arrived", version: 2 }).saving.phase).toBe("due");
  });

  it("never says saved of what was refused, and tries again with the next change", () => {
    const refused = after(
      { type: "changed", drink: two },
      { type: "write", key: "k1" },
      { type: "refused", problem },
    );
    expect(refused.saving).toEqual({ phase: "refused", problem });
    expect(isUnsaved(refused)).toBe(true);
    const changed = next(refused, { type: "changed", drink: three });
    expect(changed.saving.phase).toBe("due");
    // Refused while it had been changed already: the change is worth a try.
    const overtaken = after(
      { type: "changed", drink: two },
      { type: "write", key: "k1" },
      { type: "changed", drink: three },
      { type: "refused", problem },
    );
    expect(overtaken.saving.phase).toBe("due");
  });

  it("is saved again when a change is taken back before it was written", () => {
    const s = after({ type: "changed", drink: two }, { type: "changed", drink: one });
    expect(s.saving.phase).toBe("saved");
    expect(next(s, { type: "write", key: "k1" }).saving.phase).toBe("saved");
  });

  it("takes another window's change at once when nothing of its own stands in the way", () => {
    const s = after({ type: "overtaken", theirs: view(2, two) });
    expect(s).toMatchObject({ drink: two, kept: two, version: 2, saving: { phase: "saved" } });
    expect(next(s, { type: "overtaken", theirs: view(2, three) })).toBe(s);
  });

  it("asks which change goes on the shelf, and does as it is told", () => {
    const conflict = after(
      { type: "changed", drink: two },
      { type: "write", key: "k1" },
      { type: "overtaken", theirs: view(5, three) },
    );
    expect(conflict.saving).toEqual({ phase: "conflict", theirs: view(5, three) });
    expect(next(conflict, { type: "write", key: "k2" })).toBe(conflict);
    const mine = next(conflict, { type: "keep mine" });
    expect(mine).toMatchObject({ drink: two, kept: three, version: 5, saving: { phase: "due" } });
    const theirs = next(conflict, { type: "take theirs" });
    expect(theirs).toMatchObject({ drink: three, version: 5, saving: { phase: "saved" } });
    const later = next(conflict, { type: "changed", drink: one });
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
