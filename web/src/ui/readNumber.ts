// Numbers as people type them. A number that is read wrongly and looks right is the worst that a calculator can do,
// so every field reads them here, and what can't be read is no number.

const FRACTIONS: Record<string, number> = {
  "½": 1 / 2,
  "⅓": 1 / 3,
  "⅔": 2 / 3,
  "¼": 1 / 4,
  "¾": 3 / 4,
  "⅕": 1 / 5,
  "⅛": 1 / 8,
  "⅜": 3 / 8,
  "⅝": 5 / 8,
  "⅞": 7 / 8,
};

/** Digits with points, commas and spaces between them; undefined where they make no number. */
function plain(text: string): number | undefined {
  // Thousands are set apart by spaces, or by the sign that isn't the decimal one: "1 500", "1,500", "1.500,5".
  const spaced = /^\d{1,3}( \d{3})+([.,]\d+)?$/.test(text) ? text.replaceAll(" ", "") : text;
  const both = /^\d{1,3}((,\d{3})+\.\d+|(\.\d{3})+,\d+)$/.exec(spaced);
  if (both) {
    const thousands = spaced.includes(",") && spaced.indexOf(",") < spaced.indexOf(".") ? "," : ".";
    return Number(spaced.replaceAll(thousands, "").replace(",", "."));
  }
  if (/^[1-9]\d{0,2}(,\d{3})+$/.test(spaced)) return Number(spaced.replaceAll(",", ""));
  if (/^[1-9]\d{0,2}(\.\d{3}){2,}$/.test(spaced)) return Number(spaced.replaceAll(".", ""));
  if (/^(\d+([.,]\d*)?|[.,]\d+)$/.test(spaced)) return Number(spaced.replace(",", "."));
  return undefined;
}

/**
 * The number that a text says: "1.5", "1,5", "1 1/2", "1½", "3/4", "1,500" (a thousand and a half more), "1 500",
 * "1.500,5". NaN where it says none; nothing at all is none, too.
 */
export function readNumber(text: string): number {
  const said = text.trim().replaceAll(/[\u00a0\u2009\u202f]/g, " ");
  const sign = /^[-−]/.test(said) ? -1 : 1;
  const digits = said.replace(/^[-−+]/, "").trim();
  const mixed = /^(?:(\d+)\s+)?(\d+)\s*[/⁄]\s*(\d+)$/.exec(digits);
  if (mixed) {
    const below = Number(mixed[3]);
    return below === 0 ? NaN : sign * (Number(mixed[1] ?? 0) + Number(mixed[2]) / below);
  }
  const last = FRACTIONS[digits.at(-1) ?? ""];
  if (last !== undefined) {
    const whole = digits.slice(0, -1).trim();
    return /^\d*$/.test(whole) ? sign * (Number(whole || 0) + last) : NaN;
  }
  const read = plain(digits);
  return read === undefined ? NaN : sign * read;
}

/** What one of it is, in minutes. */
const TIMES: [RegExp, number][] = [
  [/^(s|secs?|seconds?)$/, 1 / 60],
  [/^(|m|mins?|minutes?|′|')$/, 1],
  [/^(h|hrs?|hours?)$/, 60],
  [/^(d|days?)$/, 1440],
  [/^(w|weeks?)$/, 7 * 1440],
];

/** A night, as recipes mean it: eight hours to twelve. */
const OVERNIGHT = 600;

/** Minutes as people say them: "90", "12 h", "1 1/2 hours", "1 h 30", "1:30", "2 days", "overnight". NaN for no time. */
export function readMinutes(text: string): number {
  const said = text.trim().toLowerCase();
  if (/^(over ?night|a night)$/.test(said)) return OVERNIGHT;
  const clock = /^(\d{1,3}):([0-5]\d)( ?h)?$/.exec(said);
  if (clock) return Number(clock[1]) * 60 + Number(clock[2]);
  const spoken = said
    .replace(/\bhalf an? /, "1/2 ")
    .replace(/\ba quarter of an? /, "1/4 ")
    .replace(/^an? /, "1 ")
    .replaceAll(/\band\b|(?<=[a-z]),/g, " ");
  const parts = [...spoken.matchAll(/([\d½⅓⅔¼¾⅛.,/⁄ ]*[\d½⅓⅔¼¾⅛])\s*([a-z′']*)\s*/g)];
  if (parts.length === 0 || parts.map((part) => part[0]).join("") !== spoken) return NaN;
  let all = 0;
  let before = 0;
  for (const [, digits, unit] of parts) {
    // What comes after hours without a word of its own is minutes: "1 h 30".
    const of = TIMES.find(([name]) => name.test(unit ?? ""))?.[1];
    if (of === undefined || (before > 0 && of >= before)) return NaN;
    all += readNumber(digits ?? "") * of;
    before = of;
  }
  return all;
}

/** Degrees Celsius: "80", "80 °C", "175 °F", "175 F". NaN for no temperature. */
export function readCelsius(text: string): number {
  const said = /^(.*?)\s*(?:°|deg(?:rees?)?)?\s*(c|celsius|f|fahrenheit)?\s*$/i.exec(text.trim());
  const degrees = readNumber(said?.[1] ?? "");
  return /^f/i.test(said?.[2] ?? "") ? Math.round((degrees - 32) / 0.18) / 10 : degrees;
}

/** Millimetres: "30", "30 mm", "3 cm", "1 1/2 inches", "2\"". NaN for no length. */
export function readMillimetres(text: string): number {
  const said =
    /^(.*?)\s*(mm|millimet(?:re|er)s?|cm|centimet(?:re|er)s?|in|inch(?:es)?|["″])?$/i.exec(
      text.trim(),
    );
  const length = readNumber(said?.[1] ?? "");
  const unit = (said?.[2] ?? "mm").toLowerCase();
  if (unit.startsWith("c")) return length * 10;
  return /^(i|["″])/.test(unit) ? Math.round(length * 254) / 10 : length;
}

/** Reads what a field of that unit holds; with an example where it can't be read. */
export function readIn(unit: string, text: string): { number: number; example: string } {
  switch (unit) {
    case "min":
      return { number: readMinutes(text), example: "30, 1 h 30 or 12 h" };
    case "s":
      return {
        number: /[a-z]/i.test(text) ? readMinutes(text) * 60 : readNumber(text),
        example: "40 or 2 min",
      };
    case "°C":
      return { number: readCelsius(text), example: "80 or 175 °F" };
    case "mm":
      return { number: readMillimetres(text), example: "30, 3 cm or 1 inch" };
    default:
      return { number: readNumber(text), example: "2.5" };
  }
}
