/**
 * Times of a plan. The core counts minutes from the serving; here they become hours on the kitchen's wall,
 * in the zone where the kitchen is.
 */

import { clockTime, weekday as weekdayOf, wholeDay } from "../ui/dates";
import { span } from "../ui/format";

/** When the minutes are counted from, and where the clock hangs. */
export interface Clock {
  /** The moment that minutes are counted from, ms. */
  readonly zero: number;
  /** The zone's name. */
  readonly zone: string;
}

const moment = (clock: Clock, minutes: number) => new Date(clock.zero + minutes * 60_000);

/** "9:25": a plan is read to the minute, and what is nearly the next one is it. */
export function hour(clock: Clock, minutes: number): string {
  return clockTime(moment(clock, Math.round(minutes)), clock.zone);
}

/** "Saturday". */
export function weekday(clock: Clock, minutes: number): string {
  return weekdayOf(moment(clock, minutes), clock.zone);
}

/** "Saturday 26 June". */
export function date(clock: Clock, minutes: number): string {
  return wholeDay(moment(clock, minutes), clock.zone);
}

/** "9:25", or "Friday 18:10" on another day than the serving. */
export function dayAndHour(clock: Clock, minutes: number): string {
  const same = date(clock, minutes) === date(clock, 0);
  return same ? hour(clock, minutes) : `${weekday(clock, minutes)} ${hour(clock, minutes)}`;
}

/** As a plan is kept: the time on the wall, `2030-06-22T15:00`. */
export function civil(clock: Clock, minutes: number): string {
  const parts = new Intl.DateTimeFormat("en-GB", {
    timeZone: clock.zone,
    year: "numeric",
    month: "2-digit",
    day: "2-digit",
    hour: "2-digit",
    minute: "2-digit",
    hourCycle: "h23",
  }).formatToParts(moment(clock, minutes));
  const of = (type: string) => parts.find((part) => part.type === type)?.value ?? "00";
  return `${of("year").padStart(4, "0")}-${of("month")}-${of("day")}T${of("hour")}:${of("minute")}`;
}

/** The full hours between two times, with what the clock then shows. */
export function hours(clock: Clock, from: number, to: number): { at: number; text: string }[] {
  const found = [];
  // Zones are off by quarters of an hour, so every quarter is looked at.
  const first = Math.ceil((clock.zero / 60_000 + from) / 15) * 15 - clock.zero / 60_000;
  for (let at = first; at <= to; at += 15) {
    const text = hour(clock, at);
    if (/:00\b/.test(text)) found.push({ at, text });
  }
  return found;
}

/** A time on the wall so many days and minutes on; no zone is in it. */
export function moved(civil: string, minutes: number): string {
  const then = new Date(`${civil.slice(0, 16)}:00Z`);
  return new Date(then.getTime() + minutes * 60_000).toISOString().slice(0, 16);
}

/** The coming Saturday at three, as one plans a party. */
export function comingSaturday(now: Date = new Date()): string {
  const day = new Date(now);
  day.setDate(day.getDate() + ((6 - day.getDay() + 7) % 7 || 7));
  const two = (n: number) => String(n).padStart(2, "0");
  return `${day.getFullYear()}-${two(day.getMonth() + 1)}-${two(day.getDate())}T15:00`;
}

/** By how much a task is later or earlier than planned, minutes. */
export function movedBy(minutes: number): string {
  return `${span(Math.abs(minutes))} ${minutes > 0 ? "later" : "earlier"} than planned`;
}
