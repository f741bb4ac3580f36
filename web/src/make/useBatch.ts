import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useRef, useState } from "react";
import { answer, api, type BatchView, type CallFailed, type Happening } from "../api/client";
import { createLine } from "../api/line";
import { keepNewest } from "../api/newest";
import { hurried } from "./practice";
import { newKey } from "../api/newKey";
import { keepUnsent, post, type ToSay, wasHeard } from "./unsent";
import { keys, makeStale } from "../api/keys";

const TRY_AGAIN_MS = 2000;

/** A batch that is open: how it stands, and saying what happened. What can't be said now is said again. */
export function useBatch(id: string) {
  const client = useQueryClient();
  const query = useQuery({
    queryKey: keys.batch(id),
    queryFn: () => answer(api.GET("/api/batches/{id}", { params: { path: { id } } })),
    staleTime: 0,
  });
  const [wrong, setWrong] = useState<string | undefined>();
  const [doubt, setDoubt] = useState<{ question: string; what: Happening } | undefined>();
  const line = useRef(createLine());
  const open = useRef(true);
  useEffect(() => {
    open.current = true;
    return () => void (open.current = false);
  }, []);

  const send = useCallback(
    async (entry: ToSay): Promise<boolean> => {
      for (;;) {
        try {
          const view = await post(id, entry);
          wasHeard(id, entry.key);
          await keepNewest<BatchView>(client, keys.batch(id), view);
          void makeStale(client, "batch", id, keys.batch(id));
          setWrong(undefined);
          return true;
        } catch (error) {
          const failed = error as CallFailed;
          if (!failed.mayPass) wasHeard(id, entry.key);
          if (failed.problem?.type === "doubtful") {
            setDoubt({ question: failed.message, what: entry.what });
            return false;
          }
          setWrong(failed.message);
          // What a page that is left didn't get through is sent by the next one.
          if (!failed.mayPass || !open.current) return false;
          await new Promise((done) => setTimeout(done, TRY_AGAIN_MS));
        }
      }
    },
    [client, id],
  );
  /** Says something; whether it was heard. */
  const say = useCallback(
    (what: Happening, sure = false) => {
      setDoubt(undefined);
      const entry = { what, sure, key: newKey() };
      keepUnsent(id, entry);
      return line.current(() => send(entry));
    },
    [id, send],
  );
  /** In the practice kitchen the clock is hurried. */
  const hurry = async (to: Parameters<typeof hurried>[1]) => {
    try {
      await keepNewest<BatchView>(client, keys.batch(id), await hurried(id, to));
      await makeStale(client, "batch", id, keys.batch(id));
    } catch (error) {
      setWrong((error as Error).message);
    }
  };
  return {
    view: query.data,
    hurry,
    /** When that was heard, by this device's clock. */
    heardAt: query.dataUpdatedAt,
    error: query.error ?? undefined,
    again: () => void query.refetch(),
    say,
    wrong,
    doubt,
    leaveOut: () => setDoubt(undefined),
  };
}

export type Say = ReturnType<typeof useBatch>["say"];
export type Hurry = ReturnType<typeof useBatch>["hurry"];
