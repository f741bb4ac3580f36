import type { PlanFile } from "../api/client";
import { answer, api, asking } from "../api/client";
import { ShoppingList } from "../drink/size/ShoppingList";

/** What to buy for all drinks of a plan. */
export default function PlanShopping({ id, plan }: { id: string; plan: PlanFile }) {
  return (
    <ShoppingList
      listId={`plan:${id}`}
      of={[plan.drinks, plan.serving]}
      ask={(how, signal) =>
        answer(
          api.POST("/api/compute/shopping", {
            body: { plan, how },
            headers: asking("plan-shopping"),
            signal,
          }),
        )
      }
    />
  );
}
