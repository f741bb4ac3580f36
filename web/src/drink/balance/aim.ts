import { useMemo, useState } from "react";
import { useAsked } from "../../api/ask";
import { answer, api, asking, type Drink, type Solution } from "../../api/client";
import { useStable } from "../../ui/useStable";
import { aimOf, type AimState, nothing, withBound, withHoldToggled } from "./aimState";

/** Holds the target of a drink and asks the core for the amounts. What it found counts as long as the
 * drink stays as it was asked for. */
export function useAim(drink: Drink) {
  const [state, setState] = useState(nothing);
  const { found, wrong, ask, forget } = useAsked<Solution, Drink>(drink);
  const change = useStable((next: (old: AimState) => AimState) => {
    forget();
    setState(next);
  });
  const set = useStable((part: Partial<AimState>) => change((old) => ({ ...old, ...part })));
  const clear = useStable(() => change(() => nothing));
  const toggleHold = useStable((step: string) => change((old) => withHoldToggled(old, step)));
  const bound = useStable((step: string, which: "least" | "most", text: string) =>
    change((old) => withBound(old, step, which, text)),
  );
  const work = useStable(() => {
    const aim = aimOf(state);
    const headers = asking("aim");
    return ask((signal, drink) =>
      answer(api.POST("/api/compute/solve", { body: { drink, aim }, headers, signal })),
    );
  });
  // The same object as long as nothing of it has changed, so that a drag doesn't draw it again.
  return useMemo(
    () => ({ ...state, solution: found, wrong, set, toggleHold, bound, work, clear }),
    [state, found, wrong, set, toggleHold, bound, work, clear],
  );
}

export type Aiming = ReturnType<typeof useAim>;
