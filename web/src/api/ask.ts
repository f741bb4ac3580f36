import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";

/** Answers of the core that lie about while they may be asked for again. */
const KEPT_MS = 30_000;

/**
 * A question that a screen asks by itself. While the next answer is on its way the last one stays; a
 * question that nobody waits for any more is given up.
 */
export function useQuestion<T>(
  key: readonly unknown[],
  ask: (signal: AbortSignal) => Promise<T>,
  enabled = true,
) {
  const { data, error, isPlaceholderData, refetch } = useQuery({
    queryKey: key,
    queryFn: ({ signal }) => ask(signal),
    placeholderData: keepPreviousData,
    enabled,
    staleTime: Infinity,
    gcTime: KEPT_MS,
  });
  return { data, error: error ?? undefined, waits: isPlaceholderData, again: () => void refetch() };
}

/**
 * A question that is asked on a press. Only the newest is answered, and an answer counts only as long as
 * what it was asked of (`basis`) is still what is on the screen.
 */
export function useAsked<T>(basis: unknown) {
  const [state, setState] = useState<{ of: unknown; found?: T; wrong?: string }>({ of: undefined });
  const underway = useRef<AbortController>(undefined);
  useEffect(() => () => underway.current?.abort(), []);

  const ask = async (question: (signal: AbortSignal) => Promise<T>): Promise<void> => {
    underway.current?.abort();
    const mine = new AbortController();
    underway.current = mine;
    try {
      const found = await question(mine.signal);
      if (!mine.signal.aborted) setState({ of: basis, found });
    } catch (error) {
      if (!mine.signal.aborted) setState({ of: basis, wrong: (error as Error).message });
    }
  };
  const forget = () => {
    underway.current?.abort();
    setState((old) => (old.of === undefined ? old : { of: undefined }));
  };
  const counts = Object.is(state.of, basis);
  return {
    found: counts ? state.found : undefined,
    wrong: counts ? state.wrong : undefined,
    ask,
    forget,
  };
}
