import { keepPreviousData, useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useEffectEvent, useRef, useState } from "react";

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
 * what it was asked of (`basis`) is still what is on the screen. Where that changes before the answer is
 * there, the same is asked of what is there now: a press isn't lost.
 */
export function useAsked<T, B = unknown>(basis: B) {
  type Question = (signal: AbortSignal, basis: B) => Promise<T>;
  const [state, setState] = useState<{ of?: B; found?: T; wrong?: string }>({});
  const underway = useRef<{ question: Question; given: AbortController; of: B }>(undefined);
  const giveUp = () => {
    underway.current?.given.abort();
    underway.current = undefined;
  };
  useEffect(() => () => giveUp(), []);

  const ask = async (question: Question): Promise<void> => {
    giveUp();
    const mine = { question, given: new AbortController(), of: basis };
    underway.current = mine;
    const { signal } = mine.given;
    const answered = (said: { found?: T; wrong?: string }) => {
      if (signal.aborted) return;
      underway.current = undefined;
      setState({ of: basis, ...said });
    };
    try {
      answered({ found: await question(signal, basis) });
    } catch (error) {
      answered({ wrong: (error as Error).message });
    }
  };
  const askAnew = useEffectEvent((question: Question) => void ask(question));
  useEffect(() => {
    const waiting = underway.current;
    if (waiting && !Object.is(waiting.of, basis)) askAnew(waiting.question);
  }, [basis]);
  const forget = () => {
    giveUp();
    setState((old) => (old.of === undefined ? old : {}));
  };
  const counts = Object.is(state.of, basis);
  return {
    found: counts ? state.found : undefined,
    wrong: counts ? state.wrong : undefined,
    ask,
    forget,
  };
}
