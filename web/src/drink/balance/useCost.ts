import { useQuestion } from "../../api/ask";
import { answer, api, asking, type Drink } from "../../api/client";
import { useKitchen } from "../../api/queries";
import { price } from "../../ui/format";
import { useSettled } from "../../ui/useSettled";
import { keys } from "../../api/keys";

/** Nobody waits for the cost during a drag. */
const SETTLED_MS = 300;

/** What the drink costs, in words; nothing where no price is known. */
export function useCost(drink: Drink): string | undefined {
  const settled = useSettled(drink, SETTLED_MS);
  const { kitchen } = useKitchen();
  const priced = Object.values(kitchen.larder ?? {}).some((entry) => entry.price != null);
  const { data } = useQuestion(
    keys.cost(settled.steps, settled.vessels),
    (signal) =>
      answer(
        api.POST("/api/compute/shopping", {
          body: { drinks: [settled] },
          headers: asking("cost"),
          signal,
        }),
      ),
    priced && settled.steps.length > 0,
  );
  const of = data?.list.drinks[0];
  if (of?.cost == null) return undefined;
  const money = (amount: number) => price(amount, kitchen.currency);
  return of.per_glass != null && of.glasses > 1
    ? `costs ${money(of.cost)}, ${money(of.per_glass)} a glass`
    : `costs ${money(of.cost)}`;
}
