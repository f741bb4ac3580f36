import { useState } from "react";
import {
  type Aim,
  answer,
  api,
  type Drink,
  type Solution,
  type Spot,
  type Target,
} from "../../api/client";

/** What is aimed at, and what may move for it. */
export interface AimState {
  ring: Spot | undefined;
  others: Partial<Record<"volume_ml" | "brix" | "alcohol" | "fizz", number>>;
  hold: string[];
  most: Record<string, string>;
  least: Record<string, string>;
  solution: Solution | undefined;
  wrong: string | undefined;
}

const nothing: AimState = {
  ring: undefined,
  others: {},
  hold: [],
  most: {},
  least: {},
  solution: undefined,
  wrong: undefined,
};

/** Holds the target of a drink and asks the core for the amounts. */
export function useAim() {
  const [state, setState] = useState(nothing);
  const set = (part: Partial<AimState>) =>
    setState((old) => ({ ...old, solution: undefined, wrong: undefined, ...part }));
  const toggleHold = (step: string) =>
    setState((old) => ({
      ...old,
      solution: undefined,
      hold: old.hold.includes(step) ? old.hold.filter((s) => s !== step) : [...old.hold, step],
    }));
  const bound = (step: string, which: "least" | "most", text: string) =>
    setState((old) => {
      const bounds = { ...old[which] };
      if (text.trim()) bounds[step] = text.trim();
      else delete bounds[step];
      return { ...old, solution: undefined, wrong: undefined, [which]: bounds };
    });
  const work = async (drink: Drink) => {
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
    try {
      const solution = await answer(api.POST("/api/compute/solve", { body: { drink, aim } }));
      setState((old) => ({ ...old, solution, wrong: undefined }));
    } catch (error) {
      setState((old) => ({ ...old, solution: undefined, wrong: (error as Error).message }));
    }
  };
  return { ...state, set, toggleHold, bound, work, clear: () => setState(nothing) };
}

export type Aiming = ReturnType<typeof useAim>;
