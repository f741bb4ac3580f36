import type { QueryClient } from "@tanstack/react-query";
import { answer, api, type Place, type VesselKind } from "../api/client";
import { makeStale } from "../api/keys";

/** A batch that was made or a drink of the shelf, and what it is filled into. */
export type Filled = ({ batch: string } | { drink: string }) & {
  bottles: { vessel: VesselKind; ml: number; place: Place }[];
};

/** Puts bottles into Kept, once under a key, and tells the views that show them. */
export async function putBottles(client: QueryClient, body: Filled, key: string): Promise<void> {
  await answer(api.POST("/api/kept", { body, headers: { "idempotency-key": key } }));
  // What is kept is an ingredient: the kitchen's figures change with it, and so does Kept.
  void makeStale(client, "kitchen");
}
