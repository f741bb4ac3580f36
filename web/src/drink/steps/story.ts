import type { Drink, DrinkReport, StateReport, Step } from "../../api/client";
import { setPart } from "../editing/changes";
import { held, nameOf } from "../editing/actions";

/** How the steps stand above the vessels. */

/** The positions of the steps above each vessel. What is done beside the vessels stands where it is used next. */
export function storyOf(drink: Drink, report: DrinkReport, vessels: { id: string }[]): number[][] {
  const column = new Map(vessels.map((v, i) => [v.id, i]));
  const columns: number[][] = vessels.map(() => []);
  let next = 0;
  const place: number[] = [];
  for (let at = drink.steps.length - 1; at >= 0; at--) {
    const told = report.frames[at]?.vessel;
    next = (told == null ? undefined : column.get(told)) ?? next;
    place[at] = next;
  }
  place.forEach((i, at) => columns[i]?.push(at));
  return columns;
}

/** What each vessel holds after so many steps. */
export function statesAfter(report: DrinkReport, steps: number): Map<string, StateReport> {
  const now = new Map<string, StateReport>();
  for (const frame of report.frames.slice(0, steps))
    for (const state of frame.states) now.set(state.vessel, state);
  return now;
}

const NUMBER = String.raw`\d[\d./]*(?: \d+\/\d+)?(?: (?:to|and) \d[\d./]*)?`;
/** A number with its unit, or with what is counted: "190 g", "4 lemons", "1 1/2 cups", "6 °C". */
const AMOUNT = new RegExp(String.raw`(${NUMBER}(?: h \d+ min| ?(?:°C|°F|°Bx|%)| [a-z]+)?)`);

/** A sentence in pieces, with those that say how much or how long: what one changes. */
export function inAmounts(sentence: string): [string, boolean][] {
  return sentence
    .split(AMOUNT)
    .map((text, i): [string, boolean] => [text, i % 2 === 1])
    .filter(([text]) => text !== "");
}

/** The field of a step that says above which vessel it stands, where that can be another one. */
function placeOf(step: Step): string | undefined {
  const part = held(step.do);
  if (nameOf(step.do) === "add" || nameOf(step.do) === "squeeze") return "into";
  return typeof part.vessel === "string" && part.into === undefined ? "vessel" : undefined;
}

/** The same step in another vessel; as it is if it leads from one to another. */
export function inVessel(step: Step | undefined, vessel: string): (drink: Drink) => Drink {
  const field = step && placeOf(step);
  return field && step.id ? setPart(step.id, { [field]: vessel }) : (drink) => drink;
}
