import { type QueryClient, useQueryClient } from "@tanstack/react-query";
import { useEffect } from "react";
import { type Change, type InstrumentView, windowId } from "./client";

/** Questions whose answers hang on no kitchen. */
const NOT_OF_KITCHEN = [
  "kitchen",
  "settings",
  "drink",
  "starting-points",
  "step-forms",
  "bin",
  "condition",
  "plan",
  "plans",
  "instruments",
  "phones",
  "tasters",
  "tastings",
  "prospect",
  "backups",
  "versions",
];

/** Everything that was worked out with the kitchen's figures is asked again. */
export function kitchenChanged(client: QueryClient) {
  return client.invalidateQueries({
    predicate: ({ queryKey }) => !NOT_OF_KITCHEN.includes(String(queryKey[0])),
  });
}

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
  const all = change.of === "everything";
  if (all || change.of === "drink") {
    void client.invalidateQueries({ queryKey: ["shelf"] });
    void client.invalidateQueries({ queryKey: ["bin"] });
    void client.invalidateQueries({ queryKey: ["versions"] });
    if (change.id) listeners.forEach((tell) => tell(change.id!, change.version ?? undefined));
  }
  // A drink that has changed shows in its plans.
  if (all || change.of === "plan" || change.of === "drink") {
    for (const key of ["plans", "plan", "planned"])
      void client.invalidateQueries({ queryKey: [key] });
  }
  // So does when a batch of it is served.
  if (change.of === "plan") {
    for (const key of ["going", "batch"]) void client.invalidateQueries({ queryKey: [key] });
  }
  if (all || change.of === "batch") {
    void client.invalidateQueries({ queryKey: ["batches"] });
    void client.invalidateQueries({ queryKey: ["going"] });
    void client.invalidateQueries({ queryKey: ["history"] });
    void client.invalidateQueries({ queryKey: change.id ? ["batch", change.id] : ["batch"] });
  }
  if (all || change.of === "tasting") {
    for (const key of ["tasters", "tastings", "pitchers", "pouring-sheet", "next-glass"])
      void client.invalidateQueries({ queryKey: [key] });
    void client.invalidateQueries({ queryKey: change.id ? ["tasting", change.id] : ["tasting"] });
  }
  if (all || change.of === "kept") void client.invalidateQueries({ queryKey: ["kept"] });
  if (all || change.of === "kitchen") {
    void client.invalidateQueries({ queryKey: ["kitchen"] });
    void kitchenChanged(client);
  }
  if (all || change.of === "phones") void client.invalidateQueries({ queryKey: ["phones"] });
  if (all) void client.invalidateQueries({ queryKey: ["instruments"] });
  if (all || change.of === "settings") void client.invalidateQueries({ queryKey: ["settings"] });
}

/** What was told while somebody asked for all instruments: one basket for each question under way. */
const baskets = new Set<Map<string, InstrumentView>>();

/** What an instrument reads now stands in the place of what it read before. */
export function read(client: QueryClient, now: InstrumentView) {
  baskets.forEach((basket) => basket.set(now.id, now));
  client.setQueryData<InstrumentView[]>(["instruments", now.practice], (known) =>
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
          else void client.invalidateQueries({ queryKey: ["instruments"] });
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
