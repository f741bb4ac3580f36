import { useMemo, useState } from "react";
import { useAsked } from "../../api/ask";
import {
  type Aim,
  answer,
  api,
  asking,
  type Drink,
  type Solution,
  type Spot,
  type Target,
} from "../../api/client";
import { useStable } from "../../ui/useStable";

/** What is aimed at, and what may move for it. */
export interface AimState {
  ring: Spot | undefined;
  others: Partial<Record<"volume_ml" | "brix" | "alcohol" | "fizz", number>>;
  hold: string[];
  most: Record<string, string>;
  least: Record<string, string>;
}

const nothing: AimState = {
  ring: undefined,
  others: {},
  hold: [],
  most: {},
  least: {},
};

/** Holds the target of a drink and asks the core for the amounts. What it found counts as long as the
 * drink stays as it was asked for. */
export function useAim(drink: Drink) {
  const [state, setState] = useState(nothing);
  const { found, wrong, ask, forget } = useAsked<Solution>(drink);
  const change = useStable((next: (old: AimState) => AimState) => {
    forget();
    setState(next);
  });
  const set = useStable((part: Partial<AimState>) => change((old) => ({ ...old, ...part })));
  const clear = useStable(() => change(() => nothing));
  const toggleHold = useStable((step: string) =>
    change((old) => ({
      ...old,
      hold: old.hold.includes(step) ? old.hold.filter((s) => s !== step) : [...old.hold, step],
    })),
  );
  const bound = useStable((step: string, which: "least" | "most", text: string) =>
    change((old) => {
      const bounds = { ...old[which] };
      if (text.trim()) bounds[step] = text.trim();
      else delete bounds[step];
      return { ...old, [which]: bounds };
    }),
  );
  const work = useStable(() => {
    const target: Target = { ...state.ring, ...state.others };
    const steps = new Set([...Object.keys(state.least), ...Object.keys(state.most)]);
    const aim: Aim = {
      target,
      hold: state.hold,
      bounds: [...steps].map((step) => ({
        step,
        least: state.least[step] ?? null,
        most: state.most[step] ?? null,
      })),
    };
    const body = { drink, aim };
    const headers = asking("aim");
    return ask((signal) => answer(api.POST("/api/compute/solve", { body, headers, signal })));
  });
  // The same object as long as nothing of it has changed, so that a drag doesn't draw it again.
  return useMemo(
    () => ({ ...state, solution: found, wrong, set, toggleHold, bound, work, clear }),
    [state, found, wrong, set, toggleHold, bound, work, clear],
  );
}

export type Aiming = ReturnType<typeof useAim>;
