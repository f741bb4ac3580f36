import type { QueryClient } from "@tanstack/react-query";

/**
 * Keeps what a change was answered with. A question of the same thing that is still on its way may have been
 * asked before the change, and would put back what was: it is given up, and asked anew.
 */
export async function keepNewest<T>(client: QueryClient, queryKey: readonly unknown[], view: T) {
  const exactly = { queryKey, exact: true };
  const underway = client.isFetching(exactly) > 0;
  if (underway) await client.cancelQueries(exactly);
  client.setQueryData<T>(queryKey, view);
  if (underway) void client.invalidateQueries(exactly);
}
