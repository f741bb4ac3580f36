import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { ALL, answer, api, type BottleMove } from "../api/client";
import { newKey } from "../api/newKey";
import { keys, makeStale } from "../api/keys";

/** Everything that stands there, what must be used first, first. */
export function useKept() {
  return useQuery({
    queryKey: keys.kept(),
    queryFn: () => answer(api.GET("/api/kept", { params: { query: ALL } })),
    staleTime: 0,
    // Days go by while a screen stands open.
    refetchInterval: 10 * 60_000,
  });
}

/** A bottle, and what it is good for. */
export function useBottle(id: string | undefined) {
  return useQuery({
    queryKey: keys.kept(id),
    queryFn: () => answer(api.GET("/api/kept/{id}", { params: { path: { id: id! } } })),
    enabled: id !== undefined,
    staleTime: 0,
    retry: false,
  });
}

export function useMoveBottle(id: string) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (what: BottleMove) =>
      answer(
        api.POST("/api/kept/{id}/moves", {
          params: { path: { id } },
          body: { what },
          headers: { "idempotency-key": newKey() },
        }),
      ),
    // What is kept is an ingredient: the kitchen's figures change with it, and so does Kept.
    onSuccess: () => makeStale(client, "kitchen"),
  });
}
