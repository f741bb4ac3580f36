/**
 * Days and times on the clock. Their words are English like all others; the order of a date and the clock of 12 or
 * 24 hours are those of the browser's language.
 */

interface Spoken {
  /** For words and the order of a date. */
  locale: string;
  hour12: boolean;
}

let spoken: Spoken = { locale: "en-GB", hour12: false };
const formats = new Map<string, Intl.DateTimeFormat>();

/** From the browser's languages, the one that is liked best first. */
export function speakAs(languages: readonly string[]) {
  const english = languages.find((language) => /^en(-|$)/i.test(language));
  const first = languages[0] ?? "en-GB";
  spoken = {
    locale: english ?? "en-GB",
    hour12: new Intl.DateTimeFormat(first, { hour: "numeric" }).resolvedOptions().hour12 ?? false,
  };
  formats.clear();
}

function format(options: Intl.DateTimeFormatOptions, zone?: string): Intl.DateTimeFormat {
  const key = JSON.stringify([zone, options]);
  let known = formats.get(key);
  if (!known) {
    known = new Intl.DateTimeFormat(spoken.locale, { timeZone: zone, ...options });
    formats.set(key, known);
  }
  return known;
}

/** "9:25", or "9:25 am". */
export function clockTime(at: Date, zone?: string): string {
  const cycle = spoken.hour12 ? "h12" : "h23";
  const parts = format(
    { hour: "2-digit", minute: "2-digit", hourCycle: cycle },
    zone,
  ).formatToParts(at);
  const of = (type: string) => parts.find((part) => part.type === type)?.value ?? "";
  const time = `${of("hour").replace(/^0/, "")}:${of("minute")}`;
  return spoken.hour12 ? `${time} ${of("dayPeriod").toLowerCase().replaceAll(".", "")}` : time;
}

/** "21 Jun". */
export const day = (at: Date) => format({ day: "numeric", month: "short" }).format(at);

/** "21 June". */
export const longDay = (at: Date) => format({ day: "numeric", month: "long" }).format(at);

/** "21 Jun 2026". */
export const dayAndYear = (at: Date) =>
  format({ day: "numeric", month: "short", year: "numeric" }).format(at);

/** "Saturday". */
export const weekday = (at: Date, zone?: string) => format({ weekday: "long" }, zone).format(at);

/** "Saturday 26 June", or "Saturday, June 26". */
export function wholeDay(at: Date, zone?: string): string {
  const text = format({ weekday: "long", day: "numeric", month: "long" }, zone).format(at);
  // Where the day comes before the month nobody writes a comma.
  return /\d$/.test(text) ? text : text.replace(",", "");
}

/** "Saturday 26 June, 15:00". */
export const dayAndTime = (at: Date, zone?: string) =>
  `${wholeDay(at, zone)}, ${clockTime(at, zone)}`;
