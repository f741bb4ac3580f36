const FRACTIONS: Record<string, string> = { "0.25": "1/4", "0.5": "1/2", "0.75": "3/4" };
/** Units whose parts are said in decimals. */
const DECIMAL = new Set(["g", "kg", "mg", "ml", "cl", "dl", "l", "oz", "lb"]);

/** An amount during a drag, as the core will say it in a moment: "1 1/2 cups". */
export function inWords(value: number, unit: string): string {
  const whole = Math.floor(value);
  const part = DECIMAL.has(unit) ? undefined : FRACTIONS[String(value - whole)];
  const number = part === undefined ? String(value) : whole > 0 ? `${whole} ${part}` : part;
  return `${number} ${unit}`.trim();
}
