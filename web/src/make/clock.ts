/** Times of a batch: the core counts minutes since it was begun. */

import { clockTime, weekday } from "../ui/dates";

/** The moment so many minutes after a batch was begun, ms. */
export function momentOf(begunAt: string, minutes: number): number {
  return Date.parse(begunAt) + minutes * 60_000;
}

/** "14:05", or "tomorrow 8:00", or "Friday 8:00". */
export function until(moment: number, now: number): string {
  const then = new Date(moment);
  const hour = clockTime(then);
  const midnight = new Date(now);
  midnight.setHours(24, 0, 0, 0);
  const days = Math.floor((moment - midnight.getTime()) / 86_400_000) + 1;
  if (days <= 0) return hour;
  if (days === 1) return `tomorrow ${hour}`;
  return `${weekday(then)} ${hour}`;
}

/** What is left of a wait: "12 min", "0:45", "over". */
export function left(moment: number, now: number): string {
  const seconds = Math.ceil((moment - now) / 1000);
  if (seconds <= 0) return "over";
  if (seconds < 120) return `${Math.floor(seconds / 60)}:${String(seconds % 60).padStart(2, "0")}`;
  const minutes = Math.ceil(seconds / 60);
  if (minutes < 90) return `${minutes} min`;
  return `${Math.floor(minutes / 60)} h ${minutes % 60} min`;
}

/** How much of a wait is over, 0 to 1. */
export function share(from: number, to: number, now: number): number {
  return to <= from ? 1 : Math.min(Math.max((now - from) / (to - from), 0), 1);
}
