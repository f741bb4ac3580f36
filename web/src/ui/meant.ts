// What is typed over an amount that is there: "240" keeps its unit, "+30 g", "half" and "30 g too much" change it.
import { readNumber } from "./readNumber";

const NUMBER = /^([\d.,/⁄ ½⅓⅔¼¾⅕⅛⅜⅝⅞]*[\d½⅓⅔¼¾⅕⅛⅜⅝⅞])\s*(.*)$/;

const TIMES: [RegExp, number][] = [
  [/^(half|halve|half of (it|that))$/, 1 / 2],
  [/^(twice|double|two times|2 ?[x×])( as much)?$/, 2],
  [/^(three times|triple|3 ?[x×])( as much)?$/, 3],
];

/** Nobody makes so many times as much of a thing by typing another number. */
const FAR = 40;

const MORE = [/^\+\s*(.+)$/, /^(.+?)\s+(?:more|too much|too many|extra)$/];
const LESS = [/^[-−]\s*(.+)$/, /^(.+?)\s+(?:less|fewer|too little|too few|short)$/];

/** "190 g" as its number and its unit; nothing for sums, ranges and words. */
function single(amount: string): { value: number; unit: string } | undefined {
  const found = NUMBER.exec(amount.trim());
  const value = readNumber(found?.[1] ?? "");
  const unit = found?.[2] ?? "";
  return found && Number.isFinite(value) && !/[\d+]/.test(unit) && !/^(to|-|–)/.test(unit)
    ? { value, unit }
    : undefined;
}

const shown = (value: number) => String(Math.round(value * 1000) / 1000);

const alike = (one: string, other: string) =>
  one.toLowerCase().replace(/s$/, "") === other.toLowerCase().replace(/s$/, "");

/** The first of some patterns that a text is, and what it holds. */
const held = (patterns: RegExp[], text: string) =>
  patterns.map((pattern) => pattern.exec(text)?.[1]).find((part) => part !== undefined);

/** The amount that is meant. What this makes nothing of is handed on as it was typed. */
export function meant(typed: string, before: string): string {
  const said = typed.trim();
  const from = single(before);
  if (!from) return said;
  const small = said.toLowerCase();
  const bare = /^[^a-zA-Z°%"+-]+$/.test(said) ? readNumber(said) : NaN;
  if (Number.isFinite(bare) && bare >= 0) {
    // 500 over "2 l" is hardly 500 litres: there the unit has to be said.
    const likely = bare <= FAR * from.value && from.value <= FAR * bare;
    return likely || bare === 0 ? `${shown(bare)} ${from.unit}`.trim() : said;
  }
  const times = TIMES.find(([pattern]) => pattern.test(small))?.[1];
  if (times !== undefined) return `${shown(from.value * times)} ${from.unit}`.trim();
  for (const [patterns, sign] of [
    [MORE, 1],
    [LESS, -1],
  ] as const) {
    const part = held(patterns, small);
    if (part === undefined) continue;
    const by = single(part);
    if (!by) return said;
    if (by.unit === "" || alike(by.unit, from.unit)) {
      const value = from.value + sign * by.value;
      // Less than nothing isn't there to be taken.
      return value >= 0 ? `${shown(value)} ${from.unit}`.trim() : said;
    }
    // Cups and spoons in one amount: the core adds them up.
    return sign > 0 ? `${before} + ${part}` : said;
  }
  return said;
}
