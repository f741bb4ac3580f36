import { span } from "../ui/format";

/** So many minutes later is late. */
export const LATE = 3;

/** Whether it will be ready as planned: minutes since the batch was begun, both. */
export function late(readyAt: number, serveAt: number): string {
  const by = readyAt - serveAt;
  if (by > LATE) return `${span(by)} late`;
  if (by < -10) return `${span(-by)} to spare`;
  return "as planned";
}
