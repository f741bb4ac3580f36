import { describe, expect, it } from "vitest";
import { stripScale } from "./scale";

const work = [
  { from: -1000, to: -980 },
  { from: -300, to: -280 },
  { from: -250, to: -230 },
  { from: -10, to: 0 },
];
const scale = stripScale(work, { from: -1012, to: 12 }, 900);

describe("the strip's scale", () => {
  it("folds what nobody works in, and only that", () => {
    const folds = scale.segments.filter((s) => s.folded);
    expect(folds.map((s) => [s.from, s.to])).toEqual([
      [-972, -308],
      [-222, -18],
    ]);
    for (const fold of folds)
      for (const piece of work) expect(piece.from >= fold.to || piece.to <= fold.from).toBe(true);
  });

  it("goes on without a gap, and never back", () => {
    scale.segments.slice(1).forEach((segment, i) => {
      expect(segment.from).toBe(scale.segments[i]!.to);
      expect(segment.start).toBe(scale.segments[i]!.end);
    });
    let before = -1;
    for (let at = -1012; at <= 30; at += 3) {
      expect(scale.at(at)).toBeGreaterThanOrEqual(before);
      before = scale.at(at);
    }
  });

  it("fills about the length that there is, unless minutes would be too small to see", () => {
    expect(scale.segments.at(-1)!.end).toBeCloseTo(900, 0);
    const long = stripScale([{ from: -6000, to: 0 }], { from: -6000, to: 0 }, 900);
    expect(long.segments.at(-1)!.end).toBeGreaterThan(9000);
  });
});
