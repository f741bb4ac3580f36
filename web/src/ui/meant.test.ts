import { expect, test } from "vitest";
import { meant } from "./meant";

test.each([
  ["240", "190 g", "240 g"],
  ["1,500", "190 g", "1500 g"],
  ["1 1/2", "2 cups", "1.5 cups"],
  ["6", "7 lemons", "6 lemons"],
  ["200 ml", "190 g", "200 ml"],
  ["+30 g", "190 g", "220 g"],
  ["30 g more", "190 g", "220 g"],
  ["+30", "190 g", "220 g"],
  ["30 g too much", "190 g", "220 g"],
  ["1 lemon more", "7 lemons", "8 lemons"],
  ["-20 g", "190 g", "170 g"],
  ["200 ml less", "1.2 l", "200 ml less"],
  ["50 ml less", "200 ml", "150 ml"],
  ["20 g too little", "190 g", "170 g"],
  ["+1 tbsp", "1/2 cup", "1/2 cup + 1 tbsp"],
  ["twice", "190 g", "380 g"],
  ["half", "7 lemons", "3.5 lemons"],
  ["Double", "1 1/2 cups", "3 cups"],
  ["300 g less", "190 g", "300 g less"],
  ["a pinch", "190 g", "a pinch"],
  ["240", "2 tbsp + 1 tsp", "240"],
  ["240", "1 to 2 tbsp", "240"],
  ["3 large limes", "7 lemons", "3 large limes"],
  ["0", "190 g", "0 g"],
  ["500", "2 l", "500"],
  ["3", "2 l", "3 l"],
  ["0.5", "190 g", "0.5"],
])("“%s” over %s is %s", (typed, before, amount) => {
  expect(meant(typed, before)).toBe(amount);
});
