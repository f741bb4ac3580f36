import { keepPreviousData, useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";

/** Answers of the core that lie about while they may be asked for again. */
const KEPT_MS = 30_000;

/**
 * A question that a screen asks by itself. While the next answer is on its way the last one stays; a
 * question that nobody waits for any more is given up. A press acts on `latest`: what is shown may be of a
 * moment before, when the field beside it said something else. What changes by
 * itself is asked again `everyMs`, and whenever it is come back to.
 */
export function useQuestion<T>(
  key: readonly unknown[],
  ask: (signal: AbortSignal) => Promise<T>,
  enabled = true,
  everyMs?: (data: T | undefined) => number | false,
) {
  const client = useQueryClient();
  const question = {
    queryKey: key,
    queryFn: ({ signal }: { signal: AbortSignal }) => ask(signal),
    staleTime: everyMs ? 0 : Infinity,
    gcTime: KEPT_MS,
  };
  const { data, error, isPlaceholderData, refetch } = useQuery({
    ...question,
    placeholderData: keepPreviousData,
    enabled,
    refetchInterval: (query) => everyMs?.(query.state.data) ?? false,
  });
  /** Does something with the answer to what is asked now, as soon as it is there; its fault is shown. */
  const latest = async (act: (answer: T) => void): Promise<void> => {
    const answer = await client.fetchQuery(question).catch(() => undefined);
    if (answer !== undefined) act(answer);
  };
  return {
    data,
    error: error ?? undefined,
    waits: isPlaceholderData,
    again: () => void refetch(),
    latest,
  };
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
