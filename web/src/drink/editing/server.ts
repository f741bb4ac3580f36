import {
  answer,
  api,
  outlivesThePage,
  type Drink,
  type DrinkReport,
  type DrinkView,
  type Glance,
} from "../../api/client";
import { glance, trace } from "../../api/compute";
import type { Store } from "../../document/document";
import type { Kept } from "../../document/saving";

/** What an editor asks of the server. */
export interface Server extends Store<Drink> {
  trace(drink: Drink): Promise<DrinkReport>;
  /** What moves while an amount is dragged. */
  glance(drink: Drink): Promise<Glance>;
}

export const keptDrink = ({ version, changed_at, drink }: DrinkView): Kept<Drink> => ({
  version,
  changed_at,
  content: drink,
});

/** The server of this kitchen. */
export const kitchenServer: Server = {
  trace,
  glance,
  save: async (id, version, drink, key, leaving) => {
    const body = { version, drink };
    return keptDrink(
      await answer(
        api.PUT("/api/drinks/{id}", {
          params: { path: { id } },
          body,
          headers: { "idempotency-key": key },
          keepalive: leaving && outlivesThePage(body),
        }),
      ),
    );
  },
  read: async (id) =>
    keptDrink(await answer(api.GET("/api/drinks/{id}", { params: { path: { id } } }))),
};
