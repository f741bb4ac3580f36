import type { Place } from "../api/client";

export const places: [Place, string][] = [
  ["refrigerator", "Refrigerator"],
  ["freezer", "Freezer"],
  ["cupboard", "Cupboard"],
];

const day = new Intl.DateTimeFormat("en-GB", { day: "numeric", month: "long" });

export function date(timestamp: string): string {
  return day.format(new Date(timestamp));
}
