import { answer, api, outlivesThePage, type PlanFile, type PlanView } from "../api/client";
import { createDocument, type Store } from "../document/document";
import type { Drafts } from "../document/draft";
import type { Kept } from "../document/saving";

export type Edit = (change: (plan: PlanFile) => PlanFile, gesture?: string) => void;

export const keptPlan = ({ version, changed_at, plan }: PlanView): Kept<PlanFile> => ({
  version,
  changed_at,
  content: plan,
});

const path = (id: string) => ({ params: { path: { id } } });

const kitchenServer: Store<PlanFile> = {
  save: async (id, version, plan, key, leaving) => {
    const body = { version, plan };
    return keptPlan(
      await answer(
        api.PUT("/api/plans/{id}", {
          ...path(id),
          body,
          headers: { "idempotency-key": key },
          keepalive: leaving && outlivesThePage(body),
        }),
      ),
    );
  },
  read: async (id) => keptPlan(await answer(api.GET("/api/plans/{id}", path(id)))),
};

/** An open plan, saved by itself. */
export const createPlanEditor = (
  view: PlanView,
  server: Store<PlanFile> = kitchenServer,
  drafts?: Drafts<PlanFile>,
) => createDocument(view.id, keptPlan(view), server, drafts);

export type PlanEditor = ReturnType<typeof createPlanEditor>;
