import { describe, expect, it } from "vitest";
import { aimOf, nothing, withBound, withHoldToggled } from "./aimState";

describe("what is aimed at", () => {
  it("holds a line, and lets it go again", () => {
    const held = withHoldToggled(withHoldToggled(nothing, "sugar"), "lime");
    expect(held.hold).toEqual(["sugar", "lime"]);
    expect(withHoldToggled(held, "sugar").hold).toEqual(["lime"]);
    expect(nothing.hold).toEqual([]);
  });

  it("asks once for a line that is bounded on both sides", () => {
    let aim = withBound(nothing, "lime", "most", " 7 limes ");
    aim = withBound(aim, "lime", "least", "2 limes");
    aim = withBound(aim, "sugar", "most", "1/2 cup");
    expect(aimOf(aim).bounds).toEqual([
      { step: "lime", least: "2 limes", most: "7 limes" },
      { step: "sugar", least: null, most: "1/2 cup" },
    ]);
    aim = withBound(withBound(aim, "lime", "most", "  "), "lime", "least", "");
    expect(aimOf(aim).bounds?.map((b) => b.step)).toEqual(["sugar"]);
  });

  it("asks for the ring and what else is wanted, and for nothing that isn't", () => {
    expect(aimOf(nothing).target).toEqual({});
    const ring = { sweetness: 9, acidity: 0.5 };
    expect(aimOf({ ...nothing, ring, others: { fizz: 3 } }).target).toEqual({ ...ring, fizz: 3 });
  });
});
