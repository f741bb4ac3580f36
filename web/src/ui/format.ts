import type { Profile, Settings } from "../api/client";
import { clockTime, day } from "./dates";

/** Figures as they are written on the screen. No drink is computed here. */

/** A volume: "250 ml", "1.94 l". */
export function volume(ml: number): string {
  const { figure, unit } = volumeParts(ml);
  return `${figure} ${unit}`;
}

/** In which units and degrees this kitchen is spoken to; the screens are drawn anew when it changes. */
let spoken: Pick<Settings, "units" | "degrees"> = {};

export function speakIn(settings: Pick<Settings, "units" | "degrees">) {
  spoken = settings;
}

/** A temperature: "80 °C", "176 °F". */
export function temperature(celsius: number): string {
  const { figure, unit } = temperatureParts(celsius);
  return `${figure} ${unit}`;
}

export function temperatureParts(celsius: number, places = 0): { figure: string; unit: string } {
  const fahrenheit = spoken.degrees === "fahrenheit";
  const figure = fahrenheit ? celsius * 1.8 + 32 : celsius;
  // No temperature is called minus nought.
  return { figure: (figure + 0).toFixed(places).replace(/^-0$/, "0"), unit: degrees() };
}

/** The sign of the degrees that are spoken in. */
export const degrees = () => (spoken.degrees === "fahrenheit" ? "°F" : "°C");

const cup = 236.588;
const quarters = ["", " 1/4", " 1/2", " 3/4"];

/** To a quarter: "2 3/4", "1/2". */
function inQuarters(value: number): string {
  const all = Math.max(1, Math.round(value * 4));
  return `${Math.floor(all / 4) || ""}${quarters[all % 4]}`.trim();
}

function usVolume(ml: number): { figure: string; unit: string } {
  const cups = ml / cup;
  if (ml < 1) return { figure: "0", unit: "cups" };
  // A quarter more or less of a quarter cup is tasted.
  const coarse = cups < 0.45 && Math.abs(cups * 4 - Math.round(cups * 4)) > 0.05;
  if (cups < 0.2 || coarse) return { figure: inQuarters(ml / 29.5735), unit: "fl oz" };
  if (cups >= 15.9) return { figure: inQuarters(cups / 16), unit: "gal" };
  if (cups >= 7.9) return { figure: inQuarters(cups / 4), unit: "qt" };
  return { figure: inQuarters(cups), unit: cups > 1.12 ? "cups" : "cup" };
}

export function volumeParts(ml: number): { figure: string; unit: string } {
  if (spoken.units === "us") return usVolume(ml);
  if (ml >= 999.5) return { figure: (ml / 1000).toFixed(2), unit: "l" };
  return { figure: ml < 9.95 ? ml.toFixed(1) : ml.toFixed(0), unit: "ml" };
}

/** How deep something stands in a vessel: "38 mm", "1 1/2 in". */
export function depth(mm: number): string {
  return spoken.units === "us" ? `${inQuarters(mm / 25.4)} in` : `${mm.toFixed(0)} mm`;
}

/** A weight: "46 g", "1.20 kg". */
export function weight(g: number): string {
  if (g >= 999.5) return `${(g / 1000).toFixed(2)} kg`;
  return `${g < 9.95 ? g.toFixed(1) : g.toFixed(0)} g`;
}

/** A time span: "40 min", "4 h 20 min". */
export function span(minutes: number): string {
  const whole = Math.round(minutes);
  if (minutes > 0 && minutes < 0.75) return `${Math.ceil(minutes * 6) * 10} s`;
  if (whole < 90) return `${whole} min`;
  const rest = whole % 60;
  return rest === 0 ? `${whole / 60} h` : `${Math.floor(whole / 60)} h ${rest} min`;
}

/** When something was changed: "just now", "today 14:20", "yesterday", "21 Jun". */
export function when(timestamp: string, now: Date = new Date()): string {
  const then = new Date(timestamp);
  const minutes = (now.getTime() - then.getTime()) / 60_000;
  if (minutes < 2) return "just now";
  if (then.toDateString() === now.toDateString()) return `today ${clockTime(then)}`;
  if (
    minutes < 48 * 60 &&
    new Date(now.getTime() - 86_400_000).toDateString() === then.toDateString()
  )
    return "yesterday";
  return day(then);
}

/** A time as one plans by it: to the quarter of an hour, or the half. */
export function roughly(minutes: number): string {
  const step = minutes < 60 ? 5 : minutes < 240 ? 15 : 30;
  return span(Math.max(Math.round(minutes / step), 1) * step);
}

/** A price: "3.15 €", or the figure alone where the kitchen has no currency. */
export function price(value: number, sign: string | undefined): string {
  return `${value.toFixed(2)} ${sign ?? ""}`.trim();
}

/** What a drink takes of the day: "15 min hands-on", "ready in 6 h". */
export function effort(of: { hands_on_minutes: number; minutes: number }): string[] {
  return [`${span(of.hands_on_minutes)} hands-on`, `ready in ${roughly(of.minutes)}`];
}

/** The figures that tell most of a drink, to be read aloud. */
export function readAloud(
  profile: Pick<Profile, "sweetness_percent" | "acidity_percent"> & { ratio?: number | null },
  band?: string | null,
): string {
  const { sweetness_percent, acidity_percent, ratio } = profile;
  const taste = `${sweetness_percent.toFixed(1)} g sweetness and ${acidity_percent.toFixed(2)} % acid`;
  const told = [taste, ratio != null && `ratio ${ratio.toFixed(1)}`, band].filter(Boolean);
  return `${told.join(", ")}.`;
}
