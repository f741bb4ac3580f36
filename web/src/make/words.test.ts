import { describe, expect, it } from "vitest";
import type { BatchView, Happening } from "../api/client";
import { amountOf } from "./amount";
import { told } from "./words";

const stands = {
  report: {
    frames: [{ step: "s1", sentence: "Put 50 g hibiscus into the pot." }],
    vessels: [{ id: "pot", name: "Pot" }],
  },
  drink: {
    steps: [
      { id: "s1", do: { add: { into: "pot", ingredient: "x", amount: "50 g" } } },
      { id: "s2", do: { top_up: { vessel: "pot", ingredient: "water", to: "2 l" } } },
      { id: "s3", do: { stir: { vessel: "pot" } } },
      { id: "s4", do: { reduce: { vessel: "pot", to: { volume: "1 l" } } } },
    ],
  },
} as unknown as BatchView["stands"];

describe("what happened, in words", () => {
  it("names the step, the vessel and the amount", () => {
    const cases: [Happening, string][] = [
      [{ done: { step: "s1" } }, "Done: Put 50 g hibiscus into the pot"],
      [{ began: { step: "gone" } }, "Started: A step"],
      [{ used: { step: "s1", amount: "65 g" } }, "Used 65 g: Put 50 g hibiscus into the pot"],
      [
        { reading: { vessel: "pot", quantity: "brix", value: 10.4 } },
        "Measured in the pot: 10.4 °Bx",
      ],
      [{ poured_away: { vessel: "pot", volume: "100 ml" } }, "Discarded 100 ml from the pot"],
      [{ finished: { place: "shelf" } }, "Finished, shelf"],
      [{ finished: {} }, "Finished"],
      [{ note: { text: "Too much bay" } }, "Too much bay"],
    ];
    for (const [what, words] of cases) expect(told(what, stands)).toBe(words);
  });

  it("finds the amount that a step says, and none where there is none", () => {
    const view = { stands } as BatchView;
    expect(amountOf(view, "s1")).toBe("50 g");
    expect(amountOf(view, "s2")).toBe("2 l");
    expect(amountOf(view, "s3")).toBeUndefined();
    expect(amountOf(view, "s4")).toBeUndefined();
    expect(amountOf(view, "none")).toBeUndefined();
  });
});
