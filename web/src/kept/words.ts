import type { Place } from "../api/client";
import { longDay } from "../ui/dates";

export const places: [Place, string][] = [
  ["refrigerator", "Refrigerator"],
  ["freezer", "Freezer"],
  ["cupboard", "Cupboard"],
];

export function date(timestamp: string): string {
  return longDay(new Date(timestamp));
}
