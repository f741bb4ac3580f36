import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useNavigate } from "react-router";
import { answer, api, type Drink } from "./client";
import { newKey } from "./newKey";
import { makeStale } from "./keys";

/** Begins a batch of a drink of the shelf, at the size that it is given, and opens it. */
export function useBegin(of: string) {
  const go = useNavigate();
  const client = useQueryClient();
  return useMutation({
    mutationFn: ({ drink, practice = false }: { drink: Drink; practice?: boolean }) =>
      answer(
        api.POST("/api/batches", {
          body: { of, drink, practice },
          headers: { "idempotency-key": newKey() },
        }),
      ),
    onSuccess: (made) => {
      void makeStale(client, "batch", made.id);
      void go(`/make/${made.id}`);
    },
  });
}
