import { expect, test } from "vitest";
import type { TastingEntry } from "./queries";
import { ends, glassesInWords, howFar, idealLine, namesOf } from "./words";

const entry = (part: Partial<TastingEntry>): TastingEntry => ({
  id: "t",
  name: "A tasting",
  begun_at: "2001-06-21T10:00:00Z",
  what: "ladder",
  stage: "sealed",
  tasters: [],
  done: 0,
  tells: "",
  ...part,
});

test("a list says how far a tasting is", () => {
  expect(howFar(entry({ stage: "pouring" }))).toBe("not poured yet");
  expect(howFar(entry({ done: 3, of: 10 }))).toBe("3 of 10 tasted");
  expect(howFar(entry({ done: 10, of: 10 }))).toBe("everyone has tasted; not revealed yet");
  expect(howFar(entry({ stage: "open", done: 1 }))).toBe("1 glass so far");
  expect(howFar(entry({ stage: "over", done: 10, of: 10 }))).toBe("over");
});

test("names are put in a sentence, many of them shortened", () => {
  expect(namesOf([])).toBe("nobody");
  expect(namesOf(["a"])).toBe("a");
  expect(namesOf(["a", "b", "c"])).toBe("a, b and c");
  expect(namesOf(["a", "b", "c", "d", "e"])).toBe("a, b and 3 more");
});

test("rows are named by their ends", () => {
  expect(ends("sugar")).toBe("sour to sweet");
  expect(ends({ souring: ["lemon_juice", "lime_juice"] })).toBe("what sours");
  expect(glassesInWords(5)).toBe("Five glasses");
});

test("an ideal that isn't known is not made up", () => {
  const view = { id: "x", taster: { name: "x" }, created_at: "", ideals: [] };
  expect(idealLine(view)).toBe("no tasting yet");
});
