const short = new Intl.DateTimeFormat("en-GB", { day: "numeric", month: "short" });
const long = new Intl.DateTimeFormat("en-GB", { day: "numeric", month: "short", year: "numeric" });

/** A day as it stands on the map and over a column: with its year where that isn't this one. */
export function dayOf(timestamp: string, now: Date = new Date()): string {
  const then = new Date(timestamp);
  return (then.getFullYear() === now.getFullYear() ? short : long).format(then);
}
