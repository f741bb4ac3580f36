import { type QueryClient, useQueryClient } from "@tanstack/react-query";
import { useEffect } from "react";
import { type Change, type InstrumentView, windowId } from "./client";
import { again, keys, makeStale } from "./keys";

/** What an open drink wants to know of other windows. */
type Listener = (id: string, version: number | undefined) => void;
const listeners = new Set<Listener>();

/** Tells of drinks that another window has changed, until the returned function is called. */
export function onDrinkChanged(listener: Listener): () => void {
  listeners.add(listener);
  return () => void listeners.delete(listener);
}

/** What follows from a change that was heard of: what hangs on it is asked again. */
export function apply(client: QueryClient, change: Change) {
  if (change.by === windowId) return;
  const id = change.id ?? undefined;
  if (change.of === "drink" && id)
    listeners.forEach((tell) => tell(id, change.version ?? undefined));
  void makeStale(client, change.of, id);
}

/** What was told while somebody asked for all instruments: one basket for each question under way. */
const baskets = new Set<Map<string, InstrumentView>>();

/** What an instrument reads now stands in the place of what it read before. */
export function read(client: QueryClient, now: InstrumentView) {
  baskets.forEach((basket) => basket.set(now.id, now));
  client.setQueryData<InstrumentView[]>(keys.instruments(now.practice), (known) =>
    known ? put(known, now) : known,
  );
}

/** All instruments. A reading that is told before the answer is here may be newer than the answer. */
export async function readAll(practice: boolean, ask: () => Promise<InstrumentView[]>) {
  const basket = new Map<string, InstrumentView>();
  baskets.add(basket);
  try {
    const answered = await ask();
    return [...basket.values()].filter((now) => now.practice === practice).reduce(put, answered);
  } finally {
    baskets.delete(basket);
  }
}

function put(known: InstrumentView[], now: InstrumentView): InstrumentView[] {
  return known.some((one) => one.id === now.id)
    ? known.map((one) => (one.id === now.id ? now : one))
    : [...known, now];
}

const LINE = "keen-pitcher/changes";

/** What one window tells the others. */
type News = { change: Change } | { instrument: InstrumentView };

/**
 * Learns of changes as they happen. A browser keeps few connections to one address, so of all windows
 * one listens and tells the others; when it is closed another one takes its place.
 */
export function useChanges() {
  const client = useQueryClient();
  useEffect(() => {
    const others = new BroadcastChannel(LINE);
    const ended = new AbortController();
    const take = (news: News) =>
      "change" in news ? apply(client, news.change) : read(client, news.instrument);
    others.onmessage = (event: MessageEvent<News>) => take(event.data);
    const tell = (news: News) => {
      others.postMessage(news);
      take(news);
    };
    const listen = () =>
      new Promise<void>((done) => {
        const line = new EventSource("/api/changes");
        let broken = false;
        line.onmessage = (event: MessageEvent<string>) =>
          tell({ change: JSON.parse(event.data) as Change });
        line.addEventListener("instrument", (event: MessageEvent<string>) =>
          tell({ instrument: JSON.parse(event.data) as InstrumentView }),
        );
        line.onerror = () => (broken = true);
        line.onopen = () => {
          // What happened while the line was broken was not heard.
          if (broken) {
            broken = false;
            tell({ change: { of: "everything" } });
          }
          // Nor what they read between the page's own question and this.
          else void again(client, keys.instruments());
        };
        ended.signal.addEventListener("abort", () => {
          line.close();
          done();
        });
      });
    // A page that came without encryption has no locks: there each window listens for itself.
    const locks = navigator.locks as LockManager | undefined;
    if (locks) locks.request(LINE, { signal: ended.signal }, listen).catch(() => undefined);
    else void listen();
    return () => {
      ended.abort();
      others.close();
    };
  }, [client]);
}
