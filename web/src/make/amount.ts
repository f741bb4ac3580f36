import type { BatchView } from "../api/client";

/** What the step says to put in, as it is written. */
export function amountOf(view: BatchView, step: string): string | undefined {
  const action = view.stands.drink.steps.find((s) => s.id === step)?.do;
  const held = action && (Object.values(action)[0] as Record<string, unknown>);
  const amount = held?.amount ?? (action && "top_up" in action ? held?.to : undefined);
  return typeof amount === "string" ? amount : undefined;
}
