import { useQuery } from "@tanstack/react-query";
import { useMemo } from "react";
import { ALL, answer, api, type Drink } from "../../api/client";
import type { Drinker } from "./MapPlate";
import { keys } from "../../api/keys";

/** Those who taste, with what is known of them. */
export function useTasters() {
  return useQuery({
    queryKey: keys.tasters(),
    queryFn: () => answer(api.GET("/api/tasters", { params: { query: ALL } })),
    select: (data) => data.tasters,
    staleTime: 0,
  });
}

/** The ideals of those who taste that can be told, for the map of a family. */
export function useDrinkers(family: Drink["family"]): (Drinker & { ratio: number })[] | undefined {
  const { data: tasters } = useTasters();
  return useMemo(
    () =>
      tasters?.flatMap(({ id, taster, ideals }) =>
        ideals
          .filter((ideal) => ideal.family === family && ideal.sureness !== "cant_tell")
          .map(({ spot, ends, ratio }) => ({ id, name: taster.name, spot, ends, ratio })),
      ),
    [tasters, family],
  );
}
