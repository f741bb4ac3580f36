import { describe, expect, it } from "vitest";
import { tokens } from "./theme";

type Name = keyof typeof tokens.light;

/** How bright a colour is, 0 to 1, as the guidelines on readable web pages have it (WCAG 2, relative luminance). */
function luminance(hex: string): number {
  const [red, green, blue] = [1, 3, 5].map((at) => {
    const part = parseInt(hex.slice(at, at + 2), 16) / 255;
    return part <= 0.04045 ? part / 12.92 : ((part + 0.055) / 1.055) ** 2.4;
  }) as [number, number, number];
  return 0.2126 * red + 0.7152 * green + 0.0722 * blue;
}

function contrast(one: string, other: string): number {
  const [dim, bright] = [luminance(one), luminance(other)].sort((a, b) => a - b) as [
    number,
    number,
  ];
  return (bright + 0.05) / (dim + 0.05);
}

/** What is written on what. */
const written: [Name, Name[]][] = [
  ["ink", ["ground", "enamel", "worktop", "wash", "track", "notice", "stopWash"]],
  ["muted", ["ground", "enamel", "worktop", "wash", "track"]],
  ["bandName", ["ground", "enamel"]],
  ["cobalt", ["ground", "enamel", "worktop", "wash"]],
  ["onCobalt", ["cobalt"]],
  ["onNotice", ["notice"]],
  ["stop", ["ground", "enamel", "worktop", "stopWash"]],
];

/** Bars and lines that say something by themselves, and what they stand on. */
const drawn: [Name, Name[]][] = [
  ["sweet", ["enamel", "ground", "track"]],
  ["acid", ["enamel", "ground", "track"]],
  ["water", ["enamel", "ground", "track"]],
  ["bandName", ["enamel", "ground"]],
  // The line around a field.
  ["muted", ["enamel", "ground"]],
  // What has the focus.
  ["cobalt", ["enamel", "ground", "worktop", "wash"]],
];

describe.each(["light", "dark"] as const)("the %s look", (scheme) => {
  const of = (name: Name) => tokens[scheme][name];

  it.each(written)("has %s that can be read on what it is written on", (name, grounds) => {
    for (const ground of grounds) {
      expect(contrast(of(name), of(ground)), `${name} on ${ground}`).toBeGreaterThanOrEqual(4.5);
    }
  });

  it.each(drawn)("has %s that stands out from what it is drawn on", (name, grounds) => {
    for (const ground of grounds) {
      expect(contrast(of(name), of(ground)), `${name} on ${ground}`).toBeGreaterThanOrEqual(3);
    }
  });

  it("has the same colours by name as the other", () => {
    const other = scheme === "light" ? tokens.dark : tokens.light;
    expect(Object.keys(tokens[scheme])).toEqual(Object.keys(other));
  });
});

it("measures contrast as the guidelines do", () => {
  expect(contrast("#000000", "#FFFFFF")).toBeCloseTo(21, 6);
  expect(contrast("#777777", "#FFFFFF")).toBeCloseTo(4.48, 2);
});
