import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { compare } from "fast-json-patch";
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
import { again, figuresChanged, keys, makeStale } from "./keys";

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
    queryKey: keys.shelf(sought, pages),
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
    queryKey: keys.shelf("tags"),
    meta: SHARED,
    queryFn: async () => (await answer(api.GET("/api/tags"))).tags,
    staleTime: 0,
  });
}

export function useStartingPoints() {
  return useQuery({
    queryKey: keys.startingPoints(),
    meta: SHARED,
    queryFn: async () => (await answer(api.GET("/api/starting-points"))).starting_points,
    staleTime: Infinity,
  });
}

/** What a step of each kind is called and takes. */
export function useStepForms() {
  return useQuery({
    queryKey: keys.stepForms(),
    meta: SHARED,
    queryFn: async () => (await answer(api.GET("/api/step-forms"))).forms,
    staleTime: Infinity,
  });
}

export function useIngredients() {
  return useQuery({
    queryKey: keys.ingredients(),
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
    queryKey: keys.produce(),
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
    queryKey: keys.kitchen(),
    meta: SHARED,
    queryFn: () => inLine(() => answer(api.GET("/api/kitchen"))),
    staleTime: Infinity,
  });
  const change = (edit: (kitchen: Kitchen) => Kitchen): Promise<string | undefined> =>
    inLine(async () => {
      const known = client.getQueryData<KitchenView>(keys.kitchen());
      const before = known?.kitchen ?? untouched;
      const body = patchOf(before, edit(before));
      if (body.length === 0) return undefined;
      try {
        const next = await answer(api.PATCH("/api/kitchen", patch(body)));
        client.setQueryData(keys.kitchen(), next);
      } catch (error) {
        void again(client, keys.kitchen());
        return (error as Error).message;
      }
      await figuresChanged(client);
      return undefined;
    });
  return { kitchen: query.data?.kitchen ?? untouched, version: query.data?.version, change };
}

const usual: Settings = { units: "as_written", theme: "system", shown_by: {} };

export function useSettings() {
  const client = useQueryClient();
  const query = useQuery({
    queryKey: keys.settings(),
    meta: SHARED,
    queryFn: () => inLine(() => answer(api.GET("/api/settings"))),
    staleTime: Infinity,
  });
  const settings = query.data ?? usual;
  /** Shown at once, and remembered in its turn. */
  const change = (edit: (settings: Settings) => Settings) => {
    const before = client.getQueryData<Settings>(keys.settings()) ?? usual;
    const after = edit(before);
    const body = patchOf(before, after);
    // An answer that is still on its way is older than this change, and must not undo it.
    void client.cancelQueries({ queryKey: keys.settings() }, { revert: false, silent: true });
    client.setQueryData(keys.settings(), after);
    void inLine(async () => {
      try {
        const said = await answer(api.PATCH("/api/settings", patch(body)));
        // Sentences come with what is worked out: they are asked for in the units that are remembered now.
        if (said.units !== before.units || said.degrees !== before.degrees) {
          void figuresChanged(client);
        }
        if (client.getQueryData(keys.settings()) === after)
          client.setQueryData(keys.settings(), said);
        useComplaints.getState().complain("");
      } catch (error) {
        useComplaints.getState().complain(`This wasn't saved. ${(error as Error).message}`);
        void again(client, keys.settings());
      }
    });
  };
  return { settings, change, known: !query.isPending };
}

/** How the shelf itself is. */
export function useCondition() {
  return useQuery({
    queryKey: keys.condition(),
    queryFn: () => answer(api.GET("/api/shelf")),
    staleTime: 60_000,
    refetchInterval: 60_000,
  });
}

/** What lies in the bin. */
export function useBin(wanted: boolean) {
  return useQuery({
    queryKey: keys.bin(),
    queryFn: async () => (await answer(api.GET("/api/bin", { params: { query: ALL } }))).drinks,
    enabled: wanted,
    staleTime: 0,
  });
}

export function useShelfActions() {
  const client = useQueryClient();
  const told = () => makeStale(client, "drink");
  /** Each press is one drink, however often its request has to be said again. */
  const once = () => ({ headers: { "idempotency-key": newKey() } });
  const create = useMutation({
    mutationFn: (drink: Drink) => answer(api.POST("/api/drinks", { body: drink, ...once() })),
    onSuccess: told,
  });
  const copy = useMutation({
    mutationFn: async (id: string) => {
      const { drink } = await answer(api.GET("/api/drinks/{id}", { params: { path: { id } } }));
      const body = { ...drink, name: `${drink.name}, copy` };
      return answer(api.POST("/api/drinks", { body, ...once() }));
    },
    onSuccess: told,
  });
  const rename = useMutation({
    mutationFn: async ({ id, name }: { id: string; name: string }) => {
      const path = { params: { path: { id } } };
      const { drink, version } = await answer(api.GET("/api/drinks/{id}", path));
      return answer(
        api.PUT("/api/drinks/{id}", { ...path, body: { version, drink: { ...drink, name } } }),
      );
    },
    onSuccess: told,
  });
  const remove = useMutation({
    mutationFn: (id: string) =>
      answer(api.DELETE("/api/drinks/{id}", { params: { path: { id } } })),
    onSuccess: told,
  });
  const restore = useMutation({
    mutationFn: (id: string) =>
      answer(api.POST("/api/drinks/{id}/restore", { params: { path: { id } } })),
    onSuccess: told,
  });
  return { create, copy, rename, remove, restore };
}

/** The plans, or those with a text in their name. */
export function usePlans(find: string) {
  return useQuery({
    queryKey: keys.plans(find),
    queryFn: () => answer(api.GET("/api/plans", { params: { query: { find, ...ALL } } })),
    placeholderData: (before) => before,
    staleTime: 0,
  });
}

const planPath = (id: string) => ({ params: { path: { id } } });

export function usePlanActions() {
  const client = useQueryClient();
  const told = () => makeStale(client, "plan");
  const create = useMutation({
    mutationFn: (plan: PlanFile) =>
      answer(
        api.POST("/api/plans", {
          body: plan,
          headers: { "idempotency-key": newKey() },
        }),
      ),
    onSuccess: told,
  });
  const copy = useMutation({
    mutationFn: async (id: string) => {
      const { plan } = await answer(api.GET("/api/plans/{id}", planPath(id)));
      return answer(api.POST("/api/plans", { body: { ...plan, name: `${plan.name}, copy` } }));
    },
    onSuccess: told,
  });
  const remove = useMutation({
    mutationFn: (id: string) => answer(api.DELETE("/api/plans/{id}", planPath(id))),
    onSuccess: told,
  });
  const restore = useMutation({
    mutationFn: (id: string) => answer(api.POST("/api/plans/{id}/restore", planPath(id))),
    onSuccess: told,
  });
  return { create, copy, remove, restore };
}
