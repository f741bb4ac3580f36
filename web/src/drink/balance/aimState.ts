import type { Aim, Spot } from "../../api/client";

/** What is aimed at, and what may move for it. */
export interface AimState {
  ring: Spot | undefined;
  others: Partial<Record<"volume_ml" | "brix" | "alcohol" | "fizz", number>>;
  hold: string[];
  most: Record<string, string>;
  least: Record<string, string>;
}

export const nothing: AimState = {
  ring: undefined,
  others: {},
  hold: [],
  most: {},
  least: {},
};

/** A line held as it is, or let go again. */
export function withHoldToggled(aim: AimState, step: string): AimState {
  const held = aim.hold.includes(step);
  return { ...aim, hold: held ? aim.hold.filter((s) => s !== step) : [...aim.hold, step] };
}

/** A line that may be so much at least or at most; no text takes the bound away. */
export function withBound(
  aim: AimState,
  step: string,
  which: "least" | "most",
  text: string,
): AimState {
  const bounds = { ...aim[which] };
  if (text.trim()) bounds[step] = text.trim();
  else delete bounds[step];
  return { ...aim, [which]: bounds };
}

/** What the core is asked. */
export function aimOf(aim: AimState): Aim {
  const steps = new Set([...Object.keys(aim.least), ...Object.keys(aim.most)]);
  return {
    target: { ...aim.ring, ...aim.others },
    hold: aim.hold,
    bounds: [...steps].map((step) => ({
      step,
      least: aim.least[step] ?? null,
      most: aim.most[step] ?? null,
    })),
  };
}
