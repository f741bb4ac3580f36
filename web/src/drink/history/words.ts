import { day, dayAndYear } from "../../ui/dates";

/** A day as it stands on the map and over a column: with its year where that isn't this one. */
export function dayOf(timestamp: string, now: Date = new Date()): string {
  const then = new Date(timestamp);
  return then.getFullYear() === now.getFullYear() ? day(then) : dayAndYear(then);
}
