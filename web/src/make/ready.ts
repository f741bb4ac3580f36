import { span } from "../ui/format";

/** Whether it will be ready as planned: minutes since the batch was begun, both. */
export function late(readyAt: number, serveAt: number): string {
  const by = readyAt - serveAt;
  if (by > 3) return `${span(by)} late`;
  if (by < -10) return `${span(-by)} to spare`;
  return "as planned";
}
