import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { answer, api, type Drink, type Ingredient, type Kitchen, type Settings } from "./client";

export function useShelf(find: string) {
  return useQuery({
    queryKey: ["shelf", find],
    queryFn: () => answer(api.GET("/api/drinks", { params: { query: { find, limit: 200 } } })),
    placeholderData: (before) => before,
    staleTime: 0,
  });
}

export function useStartingPoints() {
  return useQuery({
    queryKey: ["starting-points"],
    queryFn: () => answer(api.GET("/api/starting-points")),
    staleTime: Infinity,
  });
}

export function useIngredients() {
  return useQuery({
    queryKey: ["ingredients"],
    queryFn: () => answer(api.GET("/api/ingredients")),
    staleTime: Infinity,
  });
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
    queryFn: () => answer(api.GET("/api/produce")),
    staleTime: Infinity,
  });
}

/** What is this kitchen's own; a change says what is wrong with it, if anything is. */
export function useKitchen() {
  const client = useQueryClient();
  const query = useQuery({
    queryKey: ["kitchen"],
    queryFn: () => answer(api.GET("/api/kitchen")),
    staleTime: Infinity,
  });
  const change = async (kitchen: Kitchen): Promise<string | undefined> => {
    const version = query.data?.version ?? 0;
    try {
      const next = await answer(api.PUT("/api/kitchen", { body: { version, kitchen } }));
      client.setQueryData(["kitchen"], next);
    } catch (error) {
      void client.invalidateQueries({ queryKey: ["kitchen"] });
      return (error as Error).message;
    }
    // Figures, shelf and clouds are all worked out anew.
    await Promise.all(
      [["ingredients"], ["produce"], ["shelf"], ["spread"], ["steeping"]].map((queryKey) =>
        client.invalidateQueries({ queryKey }),
      ),
    );
    return undefined;
  };
  const kitchen: Kitchen = query.data?.kitchen ?? {};
  return { kitchen, change };
}

const usual: Settings = { units: "as_written", theme: "system", shown_by: {} };

export function useSettings() {
  const client = useQueryClient();
  const query = useQuery({
    queryKey: ["settings"],
    queryFn: () => answer(api.GET("/api/settings")),
    staleTime: Infinity,
  });
  const write = useMutation({
    mutationFn: (settings: Settings) => answer(api.PUT("/api/settings", { body: settings })),
  });
  const settings = query.data ?? usual;
  const change = (part: Partial<Settings>) => {
    const next = { ...settings, ...part };
    client.setQueryData(["settings"], next);
    write.mutate(next);
  };
  return { settings, change };
}

export function useShelfActions() {
  const client = useQueryClient();
  const again = () => client.invalidateQueries({ queryKey: ["shelf"] });
  const create = useMutation({
    mutationFn: (drink: Drink) => answer(api.POST("/api/drinks", { body: drink })),
    onSuccess: again,
  });
  const copy = useMutation({
    mutationFn: async (id: string) => {
      const { drink } = await answer(api.GET("/api/drinks/{id}", { params: { path: { id } } }));
      return answer(api.POST("/api/drinks", { body: { ...drink, name: `${drink.name}, copy` } }));
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
