import { describe, expect, it } from "vitest";
import type { Drink } from "../../api/client";
import {
  addIngredient,
  copyStep,
  insertStep,
  moveLine,
  moveStepTo,
  removeStep,
  setTiming,
  serveFrom,
  setAmount,
} from "./changes";

const limeade: Drink = {
  name: "Limeade",
  family: "lemonade",
  vessels: [
    { id: "pot", kind: "pot" },
    { id: "pitcher", kind: "pitcher" },
  ],
  steps: [
    { id: "a", do: { add: { into: "pitcher", ingredient: "white_sugar", amount: "100 g" } } },
    { id: "b", do: { squeeze: { into: "pitcher", ingredient: "lime_juice", amount: "4 limes" } } },
    { id: "c", do: { dissolve: { vessel: "pitcher" } } },
    { id: "d", do: { top_up: { vessel: "pitcher", ingredient: "water", to: "1 l" } } },
  ],
};
const order = (drink: Drink) => drink.steps.map((step) => step.id).join("");
const salt = { id: "salt", amount: "1 pinch", can_be_squeezed: false };

describe("changes of a recipe", () => {
  it("sets an amount where each step has it", () => {
    expect(setAmount("a", "120 g")(limeade).steps[0]!.do).toMatchObject({
      add: { amount: "120 g", ingredient: "white_sugar" },
    });
    expect(setAmount("d", "2 l")(limeade).steps[3]!.do).toMatchObject({ top_up: { to: "2 l" } });
  });

  it("leaves the drink that it was given as it was", () => {
    const before = structuredClone(limeade);
    for (const change of [setAmount("a", "1 g"), removeStep("b"), copyStep("c"), moveLine("d", -1)])
      expect(change(limeade)).not.toBe(limeade);
    expect(limeade).toEqual(before);
  });

  it("lets go of what came only after a step that is left out", () => {
    const waiting = setTiming("c", { may_stand: 30, after: ["a", "b"] })(limeade);
    expect(waiting.steps[2]).toMatchObject({ may_stand: 30, after: ["a", "b"] });
    expect(removeStep("b")(waiting).steps[1]).toMatchObject({ id: "c", after: ["a"] });
    expect(removeStep("d")(waiting).steps[2]).toBe(waiting.steps[2]);
  });

  it("moves a line past the next line, whatever is done between", () => {
    expect(order(moveLine("d", -1)(limeade))).toBe("adbc");
    expect(order(moveLine("b", 1)(limeade))).toBe("acdb");
    expect(moveLine("a", -1)(limeade)).toBe(limeade);
  });

  it("moves a step to a place, and nowhere that there isn't", () => {
    expect(order(moveStepTo("a", 2)(limeade))).toBe("bcad");
    expect(moveStepTo("a", 9)(limeade)).toBe(limeade);
    expect(moveStepTo("x", 1)(limeade)).toBe(limeade);
  });

  it("puts a copy behind a step, with a name of its own", () => {
    const { steps } = copyStep("b")(limeade);
    expect(steps.map((s) => Object.keys(s.do)[0])).toEqual([
      "add",
      "squeeze",
      "squeeze",
      "dissolve",
      "top_up",
    ]);
    expect(steps[2]!.do).toEqual(steps[1]!.do);
    expect(new Set(steps.map((s) => s.id)).size).toBe(5);
    expect(copyStep("x")(limeade)).toBe(limeade);
  });

  it("puts an ingredient where a cook would", () => {
    const into = (vessel: string, at?: number) =>
      addIngredient(
        salt,
        vessel,
        at,
      )(limeade).steps.findIndex((s) => "add" in s.do && s.do.add.ingredient === "salt");
    expect(into("pitcher")).toBe(2);
    expect(into("pot")).toBe(4);
    expect(into("pitcher", 0)).toBe(0);
  });

  it("says how much a part is where parts come in", () => {
    const part = { ...salt, amount: "2 parts" };
    expect(addIngredient(part, "pitcher")(limeade).part).toBe("30 ml");
    expect(addIngredient(part, "pitcher")({ ...limeade, part: "20 ml" }).part).toBe("20 ml");
    expect(addIngredient(salt, "pitcher")(limeade).part).toBe(limeade.part);
  });

  it("gives every step a name that no other has", () => {
    let drink = limeade;
    for (let i = 0; i < 50; i++) {
      [drink] = insertStep(drink, 0, { dissolve: { vessel: "pitcher" } });
    }
    expect(new Set(drink.steps.map((s) => s.id)).size).toBe(54);
  });

  it("serves into glasses that there are, or takes some", () => {
    const served = serveFrom("pitcher", 4, "250 ml")(limeade);
    expect(served.vessels.at(-1)).toEqual({ id: "glass", kind: "glass" });
    expect(served.steps.at(-1)!.do).toEqual({
      serve: { from: "pitcher", glass: "glass", glasses: 4, size: "250 ml" },
    });
    expect(serveFrom("pitcher", 2, "1 cup")(served).vessels).toHaveLength(3);
  });
});
