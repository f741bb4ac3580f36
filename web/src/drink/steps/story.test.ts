import { describe, expect, it } from "vitest";
import type { Drink, DrinkReport } from "../../api/client";
import { inAmounts, inVessel, statesAfter, storyOf } from "./story";

const amounts = (text: string) =>
  inAmounts(text)
    .filter(([, is]) => is)
    .map(([amount]) => amount);

const drink = {
  name: "Told",
  family: "lemonade",
  vessels: [
    { id: "bowl", kind: "bowl" },
    { id: "jug", kind: "jug" },
  ],
  steps: [
    { id: "wash", do: { prepare: { ingredient: "lemon_zest", how: "wash" } } },
    { id: "sugar", do: { add: { into: "bowl", ingredient: "white_sugar", amount: "100 g" } } },
    { id: "pour", do: { pour: { from: "bowl", into: "jug" } } },
    { id: "stir", do: { stir: { vessel: "jug" } } },
  ],
} as unknown as Drink;
const state = (vessel: string, level_ml: number) => ({ vessel, level_ml });
const report = {
  frames: [
    { step: "wash", vessel: null, states: [] },
    { step: "sugar", vessel: "bowl", states: [state("bowl", 60)] },
    { step: "pour", vessel: "jug", states: [state("bowl", 1), state("jug", 59)] },
    { step: "stir", vessel: "jug", states: [state("jug", 59)] },
  ],
} as unknown as DrinkReport;

describe("each vessel's steps above it", () => {
  it("puts a step above its vessel, and what is done beside them where it is used next", () => {
    expect(storyOf(drink, report, drink.vessels)).toEqual([
      [0, 1],
      [2, 3],
    ]);
  });

  it("knows what each vessel holds after so many steps", () => {
    const levels = (steps: number) =>
      [...statesAfter(report, steps)].map(([id, s]) => [id, s.level_ml]);
    expect(levels(0)).toEqual([]);
    expect(levels(2)).toEqual([["bowl", 60]]);
    expect(levels(3)).toEqual([
      ["bowl", 1],
      ["jug", 59],
    ]);
  });

  it("moves what is in one vessel to another, and leaves what leads from one to the next", () => {
    const moved = inVessel(drink.steps[1], "jug")(drink);
    expect(moved.steps[1]!.do).toMatchObject({ add: { into: "jug" } });
    expect(inVessel(drink.steps[3], "bowl")(drink).steps[3]!.do).toMatchObject({
      stir: { vessel: "bowl" },
    });
    expect(inVessel(drink.steps[2], "bowl")(drink)).toBe(drink);
  });

  it("finds what one changes in a sentence", () => {
    expect(amounts("Grate the zest of 4 lemons")).toEqual(["4 lemons"]);
    expect(amounts("Add 190 g white sugar")).toEqual(["190 g"]);
    expect(amounts("Pour in 1 1/2 cups water")).toEqual(["1 1/2 cups"]);
    expect(amounts("Chill in the refrigerator to 6 °C")).toEqual(["6 °C"]);
    expect(amounts("Pour 8 glasses of 250 ml")).toEqual(["8 glasses", "250 ml"]);
    expect(amounts("Leave for 2 h 30 min, covered")).toEqual(["2 h 30 min"]);
    expect(amounts("Stir until clear")).toEqual([]);
  });
});
