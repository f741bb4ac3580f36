import type { Schemas } from "../api/client";

type Thing = Schemas["StockThing"];
type Map = Schemas["OfferedDrink"]["map"];

/** What is there, in a few words: "8 limes", "Mint leaves". */
export function saidOf({ name, amount, said }: Pick<Thing, "name" | "amount" | "said">): string {
  if (!said) return name;
  // What is counted says what it is.
  return /^[\d./ ]+ [a-z]/.test(amount) && !/ (g|kg|ml|l|cups?|tbsp|tsp|oz|lb)$/.test(amount)
    ? amount
    : `${name}, ${amount}`;
}

/** Where it lies on a plate of 88 by 70. */
export function placeOn(map: Map) {
  const point = map.point;
  if (!point) return undefined;
  const [w, h] = [88, 70];
  const x = (sweet: number) => Math.min(sweet / map.sweetness_max, 1) * (w - 8) + 4;
  const y = (acid: number) => h - 4 - Math.min(acid / map.acidity_max, 1) * (h - 8);
  const rays = map.bands
    .map((band) => band.ratio_from)
    .filter((ratio) => ratio > 0)
    .map((ratio) => {
      const most = Math.min(map.sweetness_max, map.acidity_max * ratio);
      return `M${x(0).toFixed(1)} ${y(0).toFixed(1)}L${x(most).toFixed(1)} ${y(most / ratio).toFixed(1)}`;
    });
  return { x: x(point.sweetness), y: y(point.acidity), rays };
}
