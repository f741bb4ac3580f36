import type { KeptBottle, Place } from "../api/client";

/** How long it still is, as the calendar counts: "today or tonight", "1 day left", "6 days", "2 days over". */
export function left(bottle: KeptBottle, now: Date = new Date()): string {
  const midnight = (time: Date) => new Date(time).setHours(0, 0, 0, 0);
  const days = Math.round((midnight(new Date(bottle.use_by)) - midnight(now)) / 86_400_000);
  if (bottle.state.over) {
    return days > -1 ? "over today" : days === -1 ? "a day over" : `${-days} days over`;
  }
  if (days < 1) return "today or tonight";
  if (days === 1) return "1 day left";
  return days < 60 ? `${days} days` : `${Math.round(days / 30)} months`;
}

export const places: [Place, string][] = [
  ["refrigerator", "Refrigerator"],
  ["freezer", "Freezer"],
  ["cupboard", "Cupboard"],
];

const day = new Intl.DateTimeFormat("en-GB", { day: "numeric", month: "long" });

export function date(timestamp: string): string {
  return day.format(new Date(timestamp));
}
