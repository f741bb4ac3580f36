import type { Kind } from "../ui/reading";
import type { BatchView, Happening } from "../api/client";
import { temperature } from "../ui/format";

/** A happening in a few words, as it stands in the list of what happened. */
export function told(what: Happening, stands: BatchView["stands"]): string {
  const sentence = (step: string) =>
    stands.report.frames.find((f) => f.step === step)?.sentence.replace(/\.$/, "") ?? "A step";
  const vessel = (id: string) =>
    stands.report.vessels.find((v) => v.id === id)?.name.toLowerCase() ?? id;
  if ("began" in what) return `Started: ${sentence(what.began.step)}`;
  if ("done" in what) return `Done: ${sentence(what.done.step)}`;
  if ("again" in what) return `Undone: ${sentence(what.again.step)}`;
  if ("used" in what) return `Used ${what.used.amount}: ${sentence(what.used.step)}`;
  if ("came_out" in what) return `Got ${what.came_out.amount}: ${sentence(what.came_out.step)}`;
  if ("reading" in what)
    return `Measured in the ${vessel(what.reading.vessel)}: ${reading(what.reading)}`;
  if ("tasted" in what) return `Tasted the ${vessel(what.tasted.vessel)}: ${what.tasted.words}`;
  if ("added" in what) {
    const { amount, ingredient, vessel: into } = what.added;
    const name = stands.report.lines?.find((l) => l.ingredient === ingredient)?.name.toLowerCase();
    return `Added ${amount} ${name ?? "more"} to the ${vessel(into)}`;
  }
  if ("poured_away" in what)
    return `Discarded ${what.poured_away.volume} from the ${vessel(what.poured_away.vessel)}`;
  if ("left_out" in what) return "Skipped a step";
  if ("moved" in what) return `Done earlier: ${sentence(what.moved.step)}`;
  if ("note" in what) return what.note.by ? `${what.note.by}: “${what.note.text}”` : what.note.text;
  if ("taken_back" in what) return "Undid an entry";
  if ("taught" in what)
    return what.taught.learned ? "Saved to your kitchen" : "Not saved to your kitchen";
  return ["Finished", what.finished.place].filter(Boolean).join(", ");
}

function reading({ quantity, value }: { quantity: keyof typeof units; value: number }): string {
  return quantity === "temperature" ? temperature(value) : `${value} ${units[quantity]}`;
}

export const units = {
  volume: "ml",
  weight: "g",
  brix: "°Bx",
  ph: "pH",
  acidity: "% acid",
  temperature: "°C",
  height: "mm",
} as const;

export const quantities: Record<keyof typeof units, string> = {
  volume: "volume, ml",
  weight: "weight, g",
  brix: "°Brix",
  ph: "pH",
  acidity: "acidity, % (by drops)",
  temperature: "temperature",
  height: "level, mm",
};

/** How what is typed for a reading is read: "2 l" and "3 cups" are volumes too. */
export const readAs: Partial<Record<keyof typeof units, Kind>> = {
  volume: "millilitres",
  weight: "grams",
  temperature: "celsius",
  height: "millimetres",
};

/** How many places a reading is told with. */
export function places(quantity: keyof typeof units, value: number): number {
  if (quantity === "acidity" || quantity === "ph") return 2;
  return Math.abs(value) < 20 ? 1 : 0;
}
