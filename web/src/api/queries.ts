import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { compare } from "fast-json-patch";
import { kitchenChanged } from "./changes";
import {
  ALL,
  answer,
  api,
  outlivesThePage,
  type Drink,
  type Ingredient,
  type Kitchen,
  type KitchenView,
  type PlanFile,
  type Settings,
} from "./client";
import { useComplaints } from "./complaints";
import { createLine } from "./line";
import { newKey } from "./newKey";

/** Parts of many screens: where they can't be had, the frame says so. */
const SHARED = { shared: true };

/** What is looked for on the shelf, and in which order. */
export interface Sought {
  find: string;
  tag?: string | undefined;
  /** Ids of ingredients that all of them have in them. */
  with?: string[];
  sort?: "changed" | "name" | "made" | "rating";
}

/** Whether anything is looked for, or all drinks are shown. */
export const isLooking = ({ find, tag, with: inIt = [] }: Sought) =>
  find !== "" || tag !== undefined || inIt.length > 0;

/** So many drinks stand on one page of the shelf. */
export const SHELF_PAGE = 60;

export function useShelf(sought: Sought, pages = 1, enabled = true) {
  return useQuery({
    enabled,
    queryKey: ["shelf", sought, pages],
    queryFn: () =>
      answer(
        api.GET("/api/drinks", {
          params: {
            query: {
              find: sought.find,
              ...(sought.tag && { tag: sought.tag }),
              with: (sought.with ?? []).join(","),
              sort: sought.sort ?? "changed",
              limit: pages * SHELF_PAGE,
            },
          },
        }),
      ),
    placeholderData: (before) => before,
    staleTime: 0,
  });
}

/** Drinks to choose one from, the last changed first; asked for when they are `wanted`. */
export function useDrinksToChoose(wanted = true) {
  return useShelf({ find: "" }, 8, wanted);
}

/** Words that drinks are filed under. */
export function useTags() {
  return useQuery({
    queryKey: ["shelf", "tags"],
    meta: SHARED,
    queryFn: async () => (await answer(api.GET("/api/tags"))).tags,
    staleTime: 0,
  });
}

export function useStartingPoints() {
  return useQuery({
    queryKey: ["starting-points"],
    meta: SHARED,
    queryFn: async () => (await answer(api.GET("/api/starting-points"))).starting_points,
    staleTime: Infinity,
  });
}

/** What a step of each kind is called and takes. */
export function useStepForms() {
  return useQuery({
    queryKey: ["step-forms"],
    meta: SHARED,
    queryFn: async () => (await answer(api.GET("/api/step-forms"))).forms,
    staleTime: Infinity,
  });
}

export function useIngredients() {
  return useQuery({
    queryKey: ["ingredients"],
    meta: SHARED,
    queryFn: async () => (await answer(api.GET("/api/ingredients"))).ingredients,
    staleTime: Infinity,
  });
}

/** What can be put into a drink: what was removed and stays for other drinks is left out. */
export function offered(all: Ingredient[]): Ingredient[] {
  return all.filter((it) => !it.kept_for_drinks);
}

export function findIngredients(all: Ingredient[], text: string): Ingredient[] {
  const words = text.toLowerCase().split(/\s+/).filter(Boolean);
  const names = (it: Ingredient) => [it.name, ...it.aliases].join(" ").toLowerCase();
  const found = all.filter((it) => words.every((word) => names(it).includes(word)));
  const first = words[0] ?? "";
  const rank = (it: Ingredient) => (it.name.toLowerCase().startsWith(first) ? 0 : 1);
  return found.sort((a, b) => rank(a) - rank(b) || a.name.localeCompare(b.name));
}

export function useProduce() {
  return useQuery({
    queryKey: ["produce"],
    meta: SHARED,
    queryFn: async () => (await answer(api.GET("/api/produce"))).produce,
    staleTime: Infinity,
  });
}

/** A kitchen that nothing has been changed in. */
const untouched: Kitchen = {};
/**
 * Changes of the kitchen and of the choices go one after the other, each on top of the one before; what
 * is asked for while one waits is asked after it.
 */
const inLine = createLine();

/** The small changes from one document to another, each saying what it takes the old for. */
function patchOf(before: object, after: object) {
  return compare(before, JSON.parse(JSON.stringify(after)) as object, true);
}

function patch(body: object[]) {
  return {
    body: body as never,
    headers: { "content-type": "application/json-patch+json" },
    // A tick that is followed by closing the window is still a tick.
    keepalive: outlivesThePage(body),
  };
}

/** What is this kitchen's own; a change says what is wrong with it, if anything is. */
export function useKitchen() {
  const client = useQueryClient();
  const query = useQuery({
    queryKey: ["kitchen"],
    meta: SHARED,
    queryFn: () => inLine(() => answer(api.GET("/api/kitchen"))),
    staleTime: Infinity,
  });
  const change = (edit: (kitchen: Kitchen) => Kitchen): Promise<string | undefined> =>
    inLine(async () => {
      const known = client.getQueryData<KitchenView>(["kitchen"]);
      const before = known?.kitchen ?? untouched;
      const body = patchOf(before, edit(before));
      if (body.length === 0) return undefined;
      try {
        const next = await answer(api.PATCH("/api/kitchen", patch(body)));
        client.setQueryData(["kitchen"], next);
      } catch (error) {
        void client.invalidateQueries({ queryKey: ["kitchen"] });
        return (error as Error).message;
      }
      await kitchenChanged(client);
      return undefined;
    });
  return { kitchen: query.data?.kitchen ?? untouched, version: query.data?.version, change };
}

const usual: Settings = { units: "as_written", theme: "system", shown_by: {} };

export function useSettings() {
  const client = useQueryClient();
  const query = useQuery({
    queryKey: ["settings"],
    meta: SHARED,
    queryFn: () => inLine(() => answer(api.GET("/api/settings"))),
    staleTime: Infinity,
  });
  const settings = query.data ?? usual;
  /** Shown at once, and remembered in its turn. */
  const change = (edit: (settings: Settings) => Settings) => {
    const before = client.getQueryData<Settings>(["settings"]) ?? usual;
    const after = edit(before);
    const body = patchOf(before, after);
    // An answer that is still on its way is older than this change, and must not undo it.
    void client.cancelQueries({ queryKey: ["settings"] }, { revert: false, silent: true });
    client.setQueryData(["settings"], after);
    void inLine(async () => {
      try {
        const said = await answer(api.PATCH("/api/settings", patch(body)));
        // Sentences come with what is worked out: they are asked for in the units that are remembered now.
        if (said.units !== before.units || said.degrees !== before.degrees) {
          void kitchenChanged(client);
        }
        if (client.getQueryData(["settings"]) === after) client.setQueryData(["settings"], said);
        useComplaints.getState().complain("");
      } catch (error) {
        useComplaints.getState().complain(`This wasn't saved. ${(error as Error).message}`);
        void client.invalidateQueries({ queryKey: ["settings"] });
      }
    });
  };
  return { settings, change, known: !query.isPending };
}

/** How the shelf itself is. */
export function useCondition() {
  return useQuery({
    queryKey: ["condition"],
    queryFn: () => answer(api.GET("/api/shelf")),
    staleTime: 60_000,
    refetchInterval: 60_000,
  });
}

/** What lies in the bin. */
export function useBin(wanted: boolean) {
  return useQuery({
    queryKey: ["bin"],
    queryFn: async () => (await answer(api.GET("/api/bin", { params: { query: ALL } }))).drinks,
    enabled: wanted,
    staleTime: 0,
  });
}

export function useShelfActions() {
  const client = useQueryClient();
  const again = () =>
    Promise.all([["shelf"], ["bin"]].map((queryKey) => client.invalidateQueries({ queryKey })));
  /** Each press is one drink, however often its request has to be said again. */
  const once = () => ({ headers: { "idempotency-key": newKey() } });
  const create = useMutation({
    mutationFn: (drink: Drink) => answer(api.POST("/api/drinks", { body: drink, ...once() })),
    onSuccess: again,
  });
  const copy = useMutation({
    mutationFn: async (id: string) => {
      const { drink } = await answer(api.GET("/api/drinks/{id}", { params: { path: { id } } }));
      const body = { ...drink, name: `${drink.name}, copy` };
      return answer(api.POST("/api/drinks", { body, ...once() }));
    },
    onSuccess: again,
  });
  const rename = useMutation({
    mutationFn: async ({ id, name }: { id: string; name: string }) => {
      const path = { params: { path: { id } } };
      const { drink, version } = await answer(api.GET("/api/drinks/{id}", path));
      return answer(
        api.PUT("/api/drinks/{id}", { ...path, body: { version, drink: { ...drink, name } } }),
      );
    },
    onSuccess: again,
  });
  const remove = useMutation({
    mutationFn: (id: string) =>
      answer(api.DELETE("/api/drinks/{id}", { params: { path: { id } } })),
    onSuccess: again,
  });
  const restore = useMutation({
    mutationFn: (id: string) =>
      answer(api.POST("/api/drinks/{id}/restore", { params: { path: { id } } })),
    onSuccess: again,
  });
  return { create, copy, rename, remove, restore };
}

/** The plans, or those with a text in their name. */
export function usePlans(find: string) {
  return useQuery({
    queryKey: ["plans", find],
    queryFn: () => answer(api.GET("/api/plans", { params: { query: { find, ...ALL } } })),
    placeholderData: (before) => before,
    staleTime: 0,
  });
}

const planPath = (id: string) => ({ params: { path: { id } } });

export function usePlanActions() {
  const client = useQueryClient();
  const again = () => client.invalidateQueries({ queryKey: ["plans"] });
  const create = useMutation({
    mutationFn: (plan: PlanFile) =>
      answer(
        api.POST("/api/plans", {
          body: plan,
          headers: { "idempotency-key": newKey() },
        }),
      ),
    onSuccess: again,
  });
  const copy = useMutation({
    mutationFn: async (id: string) => {
      const { plan } = await answer(api.GET("/api/plans/{id}", planPath(id)));
      return answer(api.POST("/api/plans", { body: { ...plan, name: `${plan.name}, copy` } }));
    },
    onSuccess: again,
  });
  const remove = useMutation({
    mutationFn: (id: string) => answer(api.DELETE("/api/plans/{id}", planPath(id))),
    onSuccess: again,
  });
  const restore = useMutation({
    mutationFn: (id: string) => answer(api.POST("/api/plans/{id}/restore", planPath(id))),
    onSuccess: again,
  });
  return { create, copy, remove, restore };
}
