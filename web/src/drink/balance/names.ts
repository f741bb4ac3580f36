/** Something drawn that has a name: where it lies on the plate, pixels. */
interface Named {
  name: string;
  at: readonly [number, number];
}

/** A name with where it stands: beside what it names, to the right of it or `left`. */
export interface PlacedName {
  text: string;
  x: number;
  y: number;
  left: boolean;
}

/** From one name to the next below, pixels. */
const LINE = 14;
/** What a letter takes, about. */
const LETTER = 6.5;
/** A mark so far above or below a name is in its way. */
const NEAR = 12;
/** From the middle of a mark to its name; the drink and its target are drawn larger. */
const GAP = 12;
const LARGER = 20;
/** The longest name that is shown whole. */
const MOST = 18;
/** With less room than this the name stands on the other side. */
const LEAST = 9;

/**
 * Where names stand so that each can be read: below one another where their marks lie close, beside every mark
 * at their height, on the left where the plate ends. In the order of `named`; `large` are the drink and its
 * target, which have no names there.
 */
export function placeNames(
  named: readonly Named[],
  large: readonly (readonly [number, number])[],
  right: number,
): PlacedName[] {
  const marks = [
    ...named.map(({ at }) => ({ at, gap: GAP })),
    ...large.map((at) => ({ at, gap: LARGER })),
  ];
  const placed = new Map<Named, PlacedName>();
  let above = -Infinity;
  for (const one of [...named].sort((a, b) => a.at[1] - b.at[1])) {
    const y = Math.max(one.at[1], above + LINE);
    above = y;
    // Marks in its way as far as it reaches; one far off on the other side is none.
    const reach = Math.min(one.name.length, MOST) * LETTER;
    const beside = marks.filter(
      ({ at, gap }) =>
        Math.abs(at[1] - y) < Math.max(NEAR, gap) && Math.abs(at[0] - one.at[0]) < reach,
    );
    const from = Math.max(one.at[0] + GAP, ...beside.map(({ at, gap }) => at[0] + gap));
    const room = Math.floor((right - from) / LETTER);
    const left = room < Math.min(LEAST, one.name.length);
    const most = left ? MOST : Math.min(room, MOST);
    placed.set(one, {
      text: one.name.length > most ? `${one.name.slice(0, most - 1).trim()}…` : one.name,
      x: left ? Math.min(one.at[0] - GAP, ...beside.map(({ at, gap }) => at[0] - gap)) : from,
      y,
      left,
    });
  }
  return named.map((one) => placed.get(one)!);
}

/** Words before a name that tell nobody apart. */
const LITTLE = ["the", "a", "an", "my"];

/** A letter for each name, or as many as tell it from the others, up to three: "The gatekeeper" is G. */
export function initials(names: readonly string[]): string[] {
  const letters = (word: string | undefined, many: number) => {
    const [first, ...rest] = [...(word ?? "")].slice(0, many);
    return (first?.toUpperCase() ?? "?") + rest.join("");
  };
  const shortened = names.map((name) => {
    const all = name.trim().split(/\s+/);
    const told = all.filter((word) => !LITTLE.includes(word.toLowerCase()));
    const [word, next] = told.length > 0 ? told : all;
    const both = letters(word, 1) + (next ? letters(next, 1) : "");
    return [letters(word, 1), both, letters(word, 2), letters(word, 3)];
  });
  return shortened.map((mine, i) => {
    const alone = (way: number) =>
      shortened.every((other, k) => k === i || other[way] !== mine[way]);
    return mine[[0, 1, 2, 3].find(alone) ?? 3]!;
  });
}

/** Where marks of that width stand so that none covers another: moved sideways, in the order of their places. */
export function sideBySide(at: readonly (readonly [number, number])[], width: number) {
  const placed: [number, number][] = [];
  const order = at.map((_, i) => i).sort((a, b) => at[a]![0] - at[b]![0]);
  const found = new Map<number, [number, number]>();
  for (const i of order) {
    const spot: [number, number] = [at[i]![0], at[i]![1]];
    const covers = () =>
      placed.find(([x, y]) => Math.hypot(x - spot[0], y - spot[1]) < width - 0.01);
    for (let other = covers(); other; other = covers()) {
      const rise = Math.abs(other[1] - spot[1]);
      spot[0] = other[0] + Math.sqrt(Math.max(0, width ** 2 - rise ** 2));
    }
    placed.push(spot);
    found.set(i, spot);
  }
  return at.map((_, i) => found.get(i)!);
}
