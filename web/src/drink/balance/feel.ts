import type { Doubt } from "../../api/client";

/** What a pitcher may taste like, and how much so. */
export const words = [
  ["sweet", "too sweet"],
  ["not_sweet", "not sweet enough"],
  ["sharp", "too sour"],
  ["not_sharp", "not sour enough"],
  ["strong", "too strong"],
  ["weak", "too weak"],
] as const;
/** What sugar and acid don't answer. */
export const others = [
  ["flat", "flat"],
  ["bitter", "bitter"],
  ["no_bubbles", "no bubbles left"],
  ["thin", "too thin"],
] as const;
export const degrees = [
  ["touch", "slightly"],
  ["clearly", "clearly"],
  ["far", "much"],
] as const;
export type Word = (typeof words)[number][0] | (typeof others)[number][0];
export type How = (typeof degrees)[number][0];
export type Felt = Partial<Record<Word, How>>;

const opposite: Partial<Record<Word, Word>> = {
  sweet: "not_sweet",
  not_sweet: "sweet",
  sharp: "not_sharp",
  not_sharp: "sharp",
  strong: "weak",
  weak: "strong",
};

/** With a word touched: said, said otherwise, or taken back. Nothing is too sweet and not sweet enough. */
export function felt(before: Felt, word: Word, how: How): Felt {
  const next = { ...before };
  if (before[word] === how) delete next[word];
  else next[word] = how;
  const other = opposite[word];
  if (other) delete next[other];
  return next;
}

/** As it is asked of the core. */
export function doubts(of: Felt): Doubt[] {
  return Object.entries(of).map(([too, how]) => ({ too: too as Word, how: how as How }));
}

/** "clearly too sour, slightly too sweet". */
export function inWords(said: Doubt[]): string {
  const name = <T extends string>(list: readonly (readonly [T, string])[], key: T) =>
    list.find(([known]) => known === key)?.[1] ?? key;
  const plain = others.map(([word]) => word as string);
  return said
    .map(({ too, how }) =>
      plain.includes(too)
        ? name(others, too as never)
        : `${name(degrees, how)} ${name(words, too as never)}`,
    )
    .join(", ");
}
