import { expect, it } from "vitest";
import { createLine } from "./line";

it("does one thing after the other, however each went", async () => {
  const inLine = createLine();
  const done: string[] = [];
  const work = (name: string, ms: number, fails = false) =>
    inLine(async () => {
      done.push(`${name} begins`);
      await new Promise((later) => setTimeout(later, ms));
      done.push(`${name} ends`);
      if (fails) throw new Error(name);
      return name;
    });
  const all = await Promise.allSettled([work("a", 20), work("b", 5, true), work("c", 0)]);
  expect(done).toEqual(["a begins", "a ends", "b begins", "b ends", "c begins", "c ends"]);
  expect(all.map((one) => one.status)).toEqual(["fulfilled", "rejected", "fulfilled"]);
});
