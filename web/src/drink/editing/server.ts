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

/** What an editor asks of the server. */
export interface Server {
  trace(drink: Drink): Promise<DrinkReport>;
  /** What moves while an amount is dragged. */
  glance(drink: Drink): Promise<Glance>;
  save(
    id: string,
    version: number,
    drink: Drink,
    key: string,
    leaving: boolean,
  ): Promise<DrinkView>;
  read(id: string): Promise<DrinkView>;
}

/** The server of this kitchen. */
export const kitchenServer: Server = {
  trace,
  glance,
  save: (id, version, drink, key, leaving) => {
    const body = { version, drink };
    return answer(
      api.PUT("/api/drinks/{id}", {
        params: { path: { id } },
        body,
        headers: { "idempotency-key": key },
        keepalive: leaving && outlivesThePage(body),
      }),
    );
  },
  read: (id) => answer(api.GET("/api/drinks/{id}", { params: { path: { id } } })),
};
