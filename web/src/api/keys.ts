import type { Query, QueryClient } from "@tanstack/react-query";
import type { Change } from "./client";

/**
 * The names under which answers are remembered, and what each change makes stale: one table for all screens.
 *
 * An answer is either a document of the data file or worked out by the core. What is worked out follows the drink that
 * was sent with the question, so only the kitchen's figures can make it stale.
 */
const documents = [
  "backups",
  "batch",
  "batches",
  "bin",
  "condition",
  "drink",
  "going",
  "history",
  "ingredients",
  "instruments",
  "kept",
  "kitchen",
  "labelFormats",
  "nextGlass",
  "phones",
  "plan",
  "plans",
  "pouringSheet",
  "produce",
  "settings",
  "shelf",
  "startingPoints",
  "stepForms",
  "tasters",
  "tasting",
  "tastings",
  "versions",
] as const;

const workedOut = [
  "compare",
  "cost",
  "forWhom",
  "glass",
  "labels",
  "lessSugar",
  "line",
  "nextSteps",
  "offers",
  "paste",
  "pitchers",
  "planned",
  "prospect",
  "read",
  "row",
  "sheet",
  "shopping",
  "spread",
  "steeping",
  "syrup",
  "trace",
  "typedSteps",
  "vessels",
  "ways",
] as const;

type Name = (typeof documents)[number] | (typeof workedOut)[number];
type Key = readonly [Name, ...unknown[]];

/** `keys.batch(id)` is one batch, `keys.batch()` all of them. */
export const keys = Object.fromEntries(
  [...documents, ...workedOut].map((name) => [name, (...of: unknown[]): Key => [name, ...of]]),
) as unknown as Record<Name, (...of: unknown[]) => Key>;

const one = (name: Name, id: string | undefined) => (id ? keys[name](id) : keys[name]());
const all = (names: readonly Name[]) => names.map((name) => keys[name]());

/** Documents that the core adds figures to: they follow the kitchen as well. */
const WITH_FIGURES: Name[] = [
  "batch",
  "batches",
  "going",
  "history",
  "ingredients",
  "kept",
  "labelFormats",
  "nextGlass",
  "pouringSheet",
  "produce",
  "shelf",
  "tasting",
];

const ofKitchen = all([...workedOut.filter((name) => name !== "prospect"), ...WITH_FIGURES]);

/** What never changes, what an open drink keeps by itself, and what is asked for by itself. */
const STAYS_THROUGH_ALL: Name[] = [
  "backups",
  "condition",
  "drink",
  "prospect",
  "startingPoints",
  "stepForms",
];

/** What a change of each kind makes stale; with an id, a change of that one. */
const STALE: Record<Change["of"], (id?: string) => Key[]> = {
  // A drink shows in its plans.
  drink: () => all(["shelf", "bin", "versions", "history", "plans", "plan", "planned"]),
  // A batch shows by when it is served.
  plan: () => all(["plans", "plan", "planned", "going", "batch"]),
  batch: (id) => [...all(["batches", "going", "history"]), one("batch", id)],
  tasting: (id) => [
    ...all(["tasters", "tastings", "pitchers", "pouringSheet", "nextGlass"]),
    one("tasting", id),
  ],
  kept: () => all(["kept"]),
  kitchen: () => [keys.kitchen(), ...ofKitchen],
  settings: () => all(["settings"]),
  phones: () => all(["phones"]),
  everything: () =>
    all([...documents, ...workedOut].filter((name) => !STAYS_THROUGH_ALL.includes(name))),
};

/**
 * What a change of this kind makes stale is asked for again where it is shown, but not what the change was answered
 * with: that is `known`.
 */
export function makeStale(
  client: QueryClient,
  of: Change["of"],
  id?: string,
  known?: Key,
): Promise<unknown> {
  const stale = STALE[of](id).filter((key) => key.join() !== known?.join());
  return again(client, ...stale);
}

/** Everything that was worked out with the kitchen's figures is asked for again; the kitchen itself is known. */
export function figuresChanged(client: QueryClient): Promise<unknown> {
  return again(client, ...ofKitchen);
}

/** These answers are asked for again where they are shown. */
export function again(client: QueryClient, ...stale: Key[]): Promise<unknown> {
  return Promise.all(
    stale.map(async (queryKey) => {
      // A document's first answer that is still on its way may have been asked for before the change, and would be
      // taken for new: it is given up, and asked for anew.
      const isFirst = ({ state }: Query) => state.data === undefined;
      const asked = { queryKey, fetchStatus: "fetching", predicate: isFirst } as const;
      const isDocument = (documents as readonly string[]).includes(queryKey[0]);
      if (isDocument && client.isFetching(asked) > 0) await client.cancelQueries(asked);
      return client.invalidateQueries({ queryKey });
    }),
  );
}
