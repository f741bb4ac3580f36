import { describe, expect, it } from "vitest";
import { type Action, isStrainer, laneOf, nameOf, pathOf } from "./actions";

const strain: Action = {
  strain: { from: "bowl", through: "sieve", into: "jug", press: "drained" },
};
const rinse: Action = {
  rinse: {
    vessel: "blender",
    through: "sieve",
    into: "pitcher",
    ingredient: "water",
    amount: "100 ml",
  },
};

describe("a step's way through the vessels", () => {
  it("leads from where things come to where they end", () => {
    expect(pathOf(strain)).toEqual(["bowl", "sieve", "jug"]);
    expect(laneOf(strain)).toBe("jug");
    expect(pathOf(rinse)).toEqual(["blender", "sieve", "pitcher"]);
    expect(pathOf({ heat: { vessel: "pot", to_c: 90 } })).toEqual(["pot"]);
  });

  it("is nowhere for what is only prepared", () => {
    const wash: Action = { prepare: { ingredient: "lime_juice", how: "wash" } };
    expect([pathOf(wash), laneOf(wash)]).toEqual([[], ""]);
  });

  it("passes the bowl that keeps the halves", () => {
    const squeeze: Action = {
      squeeze: { into: "jug", ingredient: "lemon_juice", amount: "3 lemons", halves_into: "bowl" },
    };
    expect(pathOf(squeeze)).toEqual(["bowl", "jug"]);
  });
});

it("knows a strainer from a pot", () => {
  expect(isStrainer({ id: "s", kind: "fine_sieve" })).toBe(true);
  expect(isStrainer({ id: "p", kind: "pot" })).toBe(false);
  expect(nameOf(strain)).toBe("strain");
});
