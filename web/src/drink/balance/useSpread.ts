import { useQuestion } from "../../api/ask";
import { answer, api, asking, type Drink, type Spread } from "../../api/client";
import { useSettled } from "../../ui/useSettled";
import { keys } from "../../api/keys";

/** Long enough not to ask during a drag, short enough to be there when it ends. */
const SETTLED_MS = 80;

/** Where the fruit may take the drink; the last answer until the next is there. */
export function useSpread(drink: Drink): Spread | undefined {
  const settled = useSettled(drink, SETTLED_MS);
  const { data } = useQuestion(
    keys.spread(settled.family, settled.steps, settled.vessels),
    (signal) =>
      answer(
        api.POST("/api/compute/spread", {
          body: { drink: settled },
          headers: asking("cloud"),
          signal,
        }),
      ),
    settled.steps.length > 0,
  );
  return data ?? undefined;
}
