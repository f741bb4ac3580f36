import { describe, expect, it } from "vitest";
import type { BatchView, GoingBatch, InstrumentView } from "../api/client";
import { waiterOf, waitsOf } from "./Going";
import { lastSaid, momentNow } from "./hooks";
import { late } from "./ready";
import { shown } from "./useInstruments";
import { nearEnough } from "./Weighing";
import { places } from "./words";

const begun = "2030-06-21T10:00:00Z";
const batch = (id: string, now: number, rate: number, until: number): GoingBatch =>
  ({
    id,
    name: id,
    begun_at: begun,
    now,
    rate,
    waits: [{ step: "s", sentence: "Let it stand.", since: now, until }],
  }) as GoingBatch;

describe("what is on the go", () => {
  it("counts by the server's clock, whatever this device's says", () => {
    const heard = Date.parse("2001-01-01T00:00:00Z");
    expect(momentNow({ begun_at: begun, now: 5, rate: 1 }, heard, heard + 60_000)).toBe(
      Date.parse("2030-06-21T10:06:00Z"),
    );
    // A clock that was put back makes nothing happen before it was heard.
    expect(momentNow({ begun_at: begun, now: 5, rate: 1 }, heard, heard - 9e9)).toBe(
      Date.parse("2030-06-21T10:05:00Z"),
    );
  });

  it("runs as fast as the practice kitchen's clock does", () => {
    expect(momentNow({ begun_at: begun, now: 0, rate: 60 }, 0, 60_000)).toBe(
      Date.parse("2030-06-21T11:00:00Z"),
    );
  });

  it("puts the wait first that is over first, over all batches", () => {
    const waits = waitsOf([batch("late", 0, 1, 90), batch("soon", 100, 1, 110)], 0, 0);
    expect(waits.map((w) => w.batch.id)).toEqual(["soon", "late"]);
    expect(waits[0]!.to - waits[0]!.at).toBe(10 * 60_000);
  });

  it("takes the open batch's waits from what it shows: only what runs, with its sentence", () => {
    const view = {
      id: "open",
      begun_at: begun,
      now: 12,
      rate: 1,
      stands: {
        steps: [
          { id: "a", state: "done", since: 0, until: 5 },
          { id: "b", state: "running", since: 5, until: 25 },
          { id: "c", state: "ahead" },
        ],
        report: { frames: [{ step: "b", sentence: "Let it steep." }] },
      },
    } as unknown as BatchView;
    const [wait, ...more] = waitsOf([waiterOf(view)], 0, 0);
    expect(more).toEqual([]);
    expect(wait).toMatchObject({ step: "b", sentence: "Let it steep." });
    expect(wait!.to - wait!.at).toBe(13 * 60_000);
  });

  it("says whether it will be ready as planned", () => {
    expect(late(100, 100)).toBe("as planned");
    expect(late(125, 100)).toBe("25 min late");
    expect(late(100, 220)).toBe("2 h to spare");
  });
});

describe("what was said last", () => {
  it("is not what was taken back, nor the taking back", () => {
    const view = {
      said: [
        { at: 1, what: { done: { step: "a" } } },
        { at: 2, what: { done: { step: "b" } } },
        { at: 3, what: { taken_back: { of: 1 } } },
      ],
      taken_back: [1],
    } as unknown as BatchView;
    expect(lastSaid(view)).toBe(0);
    expect(lastSaid({ said: [], taken_back: [] } as unknown as BatchView)).toBe(-1);
  });
});

describe("an instrument", () => {
  const scale = { kind: "scale", value: 512.4, unit: "g", condition: "here" } as InstrumentView;
  it("shows what it reads as finely as it does, or why it reads nothing", () => {
    expect(shown(scale)).toBe("512 g");
    expect(shown({ ...scale, kind: "ph_meter", value: 2.613, unit: "pH" })).toBe("2.61 pH");
    expect(shown({ ...scale, value: null })).toBe("–");
    expect(shown({ ...scale, condition: "gone" })).toBe("gone away");
    expect(shown({ ...scale, condition: "garbled" })).toBe("can't be read");
  });

  it("is near enough within a gram, or a hundredth", () => {
    expect(nearEnough(20)).toBe(1);
    expect(nearEnough(1300)).toBe(13);
  });

  it("is told with two places where one says nothing", () => {
    expect(places("acidity", 0.6)).toBe(2);
    expect(places("brix", 10.4)).toBe(1);
    expect(places("volume", 940)).toBe(0);
  });
});
