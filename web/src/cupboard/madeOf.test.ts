import { expect, it } from "vitest";
import type { Ingredient } from "../api/client";
import { partsOf } from "./MadeOf";

const of = (figures: Partial<Ingredient>) =>
  partsOf({
    water_percent: 0,
    sugar_percent: 0,
    acidity_percent: 0,
    insoluble_percent: 0,
    alcohol_percent: 0,
    ...figures,
  } as Ingredient).map(({ name, grams }) => [name, Math.round(grams * 10) / 10]);

it("tells the largest part first, and what is left over last", () => {
  expect(of({ water_percent: 91, sugar_percent: 2.4, acidity_percent: 5.1 })).toEqual([
    ["water", 91],
    ["acids", 5.1],
    ["sugars", 2.4],
    ["the rest", 1.5],
  ]);
});

it("leaves out what nobody sees", () => {
  expect(of({ sugar_percent: 99.98, water_percent: 0.02 })).toEqual([["sugars", 100]]);
});
