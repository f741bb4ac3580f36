import { describe, expect, it } from "vitest";
import { doubts, felt, inWords } from "./feel";

describe("what it tastes like", () => {
  it("is said, said otherwise, and taken back by the same touch", () => {
    const sharp = felt({}, "sharp", "touch");
    expect(sharp).toEqual({ sharp: "touch" });
    expect(felt(sharp, "sharp", "far")).toEqual({ sharp: "far" });
    expect(felt(sharp, "sharp", "touch")).toEqual({});
  });

  it("is never both one thing and its opposite", () => {
    expect(felt({ sweet: "far", sharp: "touch" }, "not_sweet", "clearly")).toEqual({
      not_sweet: "clearly",
      sharp: "touch",
    });
  });

  it("reads as a sentence", () => {
    expect(inWords(doubts({ sharp: "clearly", weak: "touch" }))).toBe(
      "clearly too sour, slightly too weak",
    );
    expect(inWords([])).toBe("");
  });
});
