// @vitest-environment happy-dom
import { fireEvent, render, screen } from "@testing-library/react";
import { expect, test, vi } from "vitest";
import type { Syrup } from "../api/client";
import { Worktop, bottlesFor, strengthAt } from "./Worktop";

const levels = [50, 60, 70, 80].map((brix, n) => ({ brix, mm: 40 - 8 * n }));

vi.mock("../ui/useSize", () => ({ useSize: () => [() => undefined, { width: 800, height: 0 }] }));

const syrup = {
  brix: 50,
  volume_ml: 813,
  colour: "#eeeeee",
  levels,
  dilutions: [{ sweetness: 10, parts: 5, syrup_ml: 42, water_ml: 208, colour: "#ffffff" }],
} as unknown as Syrup;

test("a bottle holds what fits below its neck, and several hold the rest", () => {
  expect(bottlesFor(240)).toEqual({ size: 250, many: 1 });
  expect(bottlesFor(249)).toEqual({ size: 500, many: 1 });
  expect(bottlesFor(813)).toEqual({ size: 1000, many: 1 });
  expect(bottlesFor(2500)).toEqual({ size: 1000, many: 3 });
});

test("a height in the pot is the strength whose line is nearest", () => {
  expect(strengthAt(levels, 41)).toBe(50);
  expect(strengthAt(levels, 27)).toBe(70);
  expect(strengthAt(levels, 0)).toBe(80);
  expect(strengthAt([], 10)).toBeUndefined();
});

test("the line is moved by keys, and never past its ends", () => {
  const onReduce = vi.fn();
  const props = { syrup, pot: 200, onReduce, glass: 10 };
  const shown = render(<Worktop {...props} reduced={undefined} />);
  const line = screen.getByRole("slider", { name: "Boil down to" });
  fireEvent.keyDown(line, { key: "ArrowDown" });
  expect(onReduce).toHaveBeenLastCalledWith(51);
  shown.rerender(<Worktop {...props} reduced={79} />);
  fireEvent.keyDown(line, { key: "PageDown" });
  expect(onReduce).toHaveBeenLastCalledWith(80);
  fireEvent.keyDown(line, { key: "PageUp" });
  expect(onReduce).toHaveBeenLastCalledWith(74);
  fireEvent.keyDown(line, { key: "a" });
  expect(onReduce).toHaveBeenCalledTimes(3);
  shown.rerender(<Worktop {...props} reduced={52} />);
  fireEvent.keyDown(line, { key: "PageUp" });
  expect(onReduce).toHaveBeenLastCalledWith(undefined);
});
