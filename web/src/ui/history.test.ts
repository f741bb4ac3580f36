import { describe, expect, it } from "vitest";
import type { Drink } from "../api/client";
import { changed, type History, noHistory, recall, redone, remember, undone } from "./history";

const drink = (note: string) =>
  ({ name: "Lime", family: "lemonade", note, vessels: [], steps: [] }) as Drink;
const notes = (drinks: readonly Drink[]) => drinks.map((one) => one.note);

/** The history after changes of "0", "1", "2" and so on, each standing alone. */
function after(changes: number): History<Drink> {
  let history: History<Drink> = noHistory;
  for (let at = 0; at < changes; at += 1) {
    history = changed(history, drink(String(at)), "", at * 10);
  }
  return history;
}

describe("the history of a drink", () => {
  it("goes back and forth through all changes, and says when there is no further", () => {
    const [one, back] = undone(after(2), drink("2"))!;
    expect(one.note).toBe("1");
    const [none, start] = undone(back, one)!;
    expect(none.note).toBe("0");
    expect(undone(start, none)).toBeUndefined();

    const [again, forth] = redone(start, none)!;
    expect(again.note).toBe("1");
    const [last, end] = redone(forth, again)!;
    expect(last.note).toBe("2");
    expect(redone(end, last)).toBeUndefined();
    expect(notes(end.past)).toEqual(["0", "1"]);
  });

  it("takes nudges of one thing in quick succession as one step, and slow or other ones apart", () => {
    let history = changed(noHistory, drink("a"), "sugar", 0);
    history = changed(history, drink("b"), "sugar", 1000);
    history = changed(history, drink("c"), "sugar", 2000);
    expect(notes(history.past)).toEqual(["a"]);

    history = changed(history, drink("d"), "lime", 2100);
    expect(notes(history.past)).toEqual(["a", "d"]);

    history = changed(history, drink("e"), "lime", 3300);
    expect(notes(history.past)).toEqual(["a", "d", "e"]);
  });

  it("starts a new step after an undo, though the same thing is nudged at once", () => {
    const history = changed(noHistory, drink("a"), "sugar", 0);
    const [, back] = undone(history, drink("b"))!;
    expect(notes(changed(back, drink("a"), "sugar", 100).past)).toEqual(["a"]);
    const [, forth] = redone(back, drink("a"))!;
    expect(notes(changed(forth, drink("b"), "sugar", 100).past)).toEqual(["a", "b"]);
  });

  it("drops what was undone once something else is changed", () => {
    const [present, back] = undone(after(3), drink("3"))!;
    expect(redone(changed(back, present, "", 99), drink("x"))).toBeUndefined();
  });

  it("keeps the last two hundred steps", () => {
    const history = after(250);
    expect(history.past).toHaveLength(200);
    expect(history.past[0]?.note).toBe("50");
    expect(history.past.at(-1)?.note).toBe("249");
  });
});

describe("what is remembered of drinks that are left", () => {
  it("is found when the drink is opened again, and isn't mixed up with another's", () => {
    remember("lime", after(2), drink("2"));
    expect(notes(recall("lime", drink("2")).past)).toEqual(["0", "1"]);
    expect(recall("hibiscus", drink("2"))).toBe(noHistory);
  });

  it("takes what was changed elsewhere meanwhile as one more step", () => {
    remember("lime", after(2), drink("2"));
    expect(notes(recall("lime", drink("from the phone")).past)).toEqual(["0", "1", "2"]);
  });

  it("doesn't go on with a gesture from before", () => {
    remember("lime", changed(noHistory, drink("a"), "sugar", 0), drink("b"));
    const history = changed(recall("lime", drink("b")), drink("b"), "sugar", 10);
    expect(notes(history.past)).toEqual(["a", "b"]);
  });

  it("goes for the drink that was left longest ago when there are more than twenty", () => {
    remember("first", after(1), drink("1"));
    for (let n = 0; n < 19; n += 1) remember(`other ${n}`, after(1), drink("1"));
    remember("first", after(1), drink("1"));
    remember("one more", after(1), drink("1"));
    expect(recall("other 0", drink("1"))).toBe(noHistory);
    expect(recall("first", drink("1")).past).toHaveLength(1);
    expect(recall("one more", drink("1")).past).toHaveLength(1);
  });
});
