import { expect, it } from "vitest";
import { inWords } from "./amountWords";

it("says spoons and pieces in fractions, and what is weighed or poured in decimals", () => {
  const said = [
    [1.5, "cups"],
    [0.25, "tsp"],
    [2, "lemons"],
    [0.75, ""],
    [1.5, "l"],
    [0.25, "kg"],
    [2.3, "tbsp"],
  ] as const;
  expect(said.map(([value, unit]) => inWords(value, unit))).toEqual([
    "1 1/2 cups",
    "1/4 tsp",
    "2 lemons",
    "3/4",
    "1.5 l",
    "0.25 kg",
    "2.3 tbsp",
  ]);
});
