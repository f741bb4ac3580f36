import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { ALL, answer, api, type Schemas } from "../api/client";
import { keepNewest } from "../api/newest";
import { newKey } from "../api/newKey";
import { keys, makeStale } from "../api/keys";

export { useTasters } from "../drink/balance/useDrinkers";

export type Taster = Schemas["Taster"];
export type TasterView = Schemas["TasterView"];
export type TastingView = Schemas["TastingView"];
export type TastingEntry = Schemas["TastingEntry"];
export type SetUp = Schemas["SetUp"];
export type Utterance = Schemas["Utterance"];
export type Felt = Schemas["Felt"];
export type Seat = Schemas["Seat"];

const once = () => ({ headers: { "idempotency-key": newKey() } });
const at = (id: string) => ({ params: { path: { id } } });

export function useTastings() {
  return useQuery({
    queryKey: keys.tastings(),
    queryFn: () => answer(api.GET("/api/tastings", { params: { query: ALL } })),
    select: (data) => data.tastings,
    staleTime: 0,
  });
}

export function useTasting(id: string) {
  return useQuery({
    queryKey: keys.tasting(id),
    queryFn: () => answer(api.GET("/api/tastings/{id}", at(id))),
    staleTime: 0,
  });
}

/** The sheet of the one who pours; what was said changes it. */
export function useSheet(id: string, said: unknown, wanted: boolean) {
  return useQuery({
    queryKey: keys.pouringSheet(id, said),
    queryFn: () => answer(api.GET("/api/tastings/{id}/sheet", at(id))),
    enabled: wanted,
    retry: false,
    placeholderData: (before) => before,
    staleTime: 0,
  });
}

export function useTasterActions() {
  const client = useQueryClient();
  const told = () => makeStale(client, "tasting");
  const add = useMutation({
    mutationFn: (body: Taster) => answer(api.POST("/api/tasters", { body, ...once() })),
    onSuccess: told,
  });
  const change = useMutation({
    mutationFn: ({ id, body }: { id: string; body: Taster }) =>
      answer(api.PUT("/api/tasters/{id}", { body, ...at(id) })),
    onSuccess: told,
  });
  const remove = useMutation({
    mutationFn: (id: string) => answer(api.DELETE("/api/tasters/{id}", at(id))),
    onSuccess: told,
  });
  return { add, change, remove };
}

export function useTastingActions() {
  const client = useQueryClient();
  const setUp = useMutation({
    mutationFn: (body: SetUp) => answer(api.POST("/api/tastings", { body, ...once() })),
    onSuccess: (made) => {
      client.setQueryData(keys.tasting(made.id), made);
      void makeStale(client, "tasting", made.id, keys.tasting(made.id));
    },
  });
  const remove = useMutation({
    mutationFn: (id: string) => answer(api.DELETE("/api/tastings/{id}", at(id))),
    onSuccess: () => makeStale(client, "tasting"),
  });
  return { setUp, remove };
}

/** Says something at a table; each saying has a key, so that it counts once however often it is sent. */
export function useUtter(id: string) {
  const client = useQueryClient();
  return useMutation({
    // One after the other: of two answers that come back in the wrong order the older would stay on the screen.
    scope: { id: `words ${id}` },
    mutationFn: ({ word, key }: { word: Utterance; key: string }) =>
      answer(
        api.POST("/api/tastings/{id}/words", {
          ...at(id),
          body: { word },
          headers: { "idempotency-key": key },
        }),
      ),
    // At a table the net may be gone for a moment: the same word is sent again under its key.
    retry: 2,
    onSuccess: async (view) => {
      await keepNewest(client, keys.tasting(id), view);
      void makeStale(client, "tasting", id, keys.tasting(id));
    },
  });
}
