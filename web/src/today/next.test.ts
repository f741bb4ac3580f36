import { describe, expect, it } from "vitest";
import type { GoingBatch, PlanAnswer } from "../api/client";
import { speakAs } from "../ui/dates";
import { nextThings } from "./next";

speakAs(["en-GB"]);
const NOON = Date.parse("2030-06-22T12:00:00Z");

const batch = (id: string, more: Partial<GoingBatch>): GoingBatch => ({
  id,
  name: id,
  begun_at: "2030-06-22T11:00:00Z",
  now: 60,
  rate: 1,
  drink: "d",
  practice: false,
  ready_at: 90,
  waits: [],
  next: null,
  ...more,
});
const wait = (until: number, sentence = "Leave the bowl for 40 minutes.") => ({
  step: `w${until}`,
  sentence,
  since: 0,
  until,
});

const coming = (blocks: object[], now = 0) => ({
  id: "p",
  name: "Party",
  answer: {
    zero: "2030-06-22T12:00:00Z",
    zone: "UTC",
    now,
    list: "",
    drinks: [
      { id: "a", position: 0, name: "Limeade", colour: "#aabbcc" },
      { id: "b", position: 1, name: "Hibiscus" },
    ],
    plan: { blocks },
  } as unknown as PlanAnswer,
});

describe("what is next", () => {
  it("puts what can be done at once first, then what ends, by the clock", () => {
    const things = nextThings(
      [
        batch("Late", { waits: [wait(100)] }),
        batch("Soon", { waits: [wait(72)], next: "Add 450 ml cold water." }),
        batch("Over", { waits: [wait(59)] }),
      ],
      [],
      NOON,
      NOON,
    );
    expect(things.map((t) => [t.of, t.minutes, t.what])).toEqual([
      ["Soon", 0, "Add 450 ml cold water"],
      ["Over", 0, "Time is up: Leave the bowl for 40 minutes"],
      ["Soon", 12, "12 min left: Leave the bowl for 40 minutes"],
      ["Late", 40, "40 min left: Leave the bowl for 40 minutes"],
    ]);
  });

  it("counts a practice clock by how long one really waits", () => {
    const quick = batch("Practice", { rate: 60, practice: true, waits: [wait(120)] });
    const [first] = nextThings([quick, batch("Real", { waits: [wait(70)] })], [], NOON, NOON);
    expect(first).toMatchObject({ of: "Practice, practice", minutes: 1 });
  });

  it("asks to finish a batch whose steps are done", () => {
    expect(nextThings([batch("Done", {})], [], NOON, NOON)[0]!.what).toBe("Finish the batch");
  });

  it("takes from a plan the first thing that nobody has done, of a drink that isn't started", () => {
    const blocks = [
      { from: 10, drink: 0, label: "squeeze", done: true },
      { from: 30, drink: 0, label: "strain", done: false },
      { from: 50, drink: 1, label: "boil", done: false },
    ];
    expect(nextThings([], [coming(blocks)], NOON, NOON)[0]).toMatchObject({
      of: "Party: Limeade",
      what: "strain",
      minutes: 30,
      to: "/plan/p",
      colour: "#aabbcc",
    });
    const started = batch("Limeade", { plan: { id: "p", entry: "a", serve_at: "" } });
    const things = nextThings([started], [coming(blocks)], NOON, NOON);
    expect(things.map((t) => t.of)).toEqual(["Limeade", "Party: Hibiscus"]);
  });

  it("says of a plan that is late what it was planned for", () => {
    const [thing] = nextThings([], [coming([{ from: -20, drink: 0, label: "wash" }])], NOON, NOON);
    expect(thing).toMatchObject({ when: "now", minutes: 0, what: "wash, planned for 11:40" });
  });
});
