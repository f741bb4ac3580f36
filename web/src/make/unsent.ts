// What was said at the stove and not heard yet. It is kept in the browser, under the key that it is sent under, until
// the server has answered: so neither a server that is away nor a tab that is closed loses a typed amount.
import { answer, api, type CallFailed, type Happening } from "../api/client";

/** Something that has to be said, under a key of its own: said again it counts once. */
export interface ToSay {
  what: Happening;
  sure: boolean;
  key: string;
}

const NAME = "keen-pitcher/unsent/";
const TRY_AGAIN_MS = 3000;

/** The browser's store; none where it is forbidden or full, and then what is said is kept in memory alone. */
function store(): Storage | undefined {
  try {
    return window.localStorage;
  } catch {
    return undefined;
  }
}

export function unsent(batch: string): ToSay[] {
  try {
    const kept: unknown = JSON.parse(store()?.getItem(NAME + batch) ?? "[]");
    return Array.isArray(kept) ? (kept as ToSay[]).filter((it) => it?.key && it.what) : [];
  } catch {
    return [];
  }
}

function keep(batch: string, all: ToSay[]) {
  try {
    if (all.length === 0) store()?.removeItem(NAME + batch);
    else store()?.setItem(NAME + batch, JSON.stringify(all));
  } catch {
    // A full store: what is said is sent from memory as long as the page is open.
  }
}

export function keepUnsent(batch: string, entry: ToSay) {
  keep(batch, [...unsent(batch).filter((it) => it.key !== entry.key), entry]);
}

/** It was heard, or refused for good. */
export function wasHeard(batch: string, key: string) {
  keep(
    batch,
    unsent(batch).filter((it) => it.key !== key),
  );
}

/** The batches of which something wasn't heard. */
export function batchesUnsent(): string[] {
  const all = store();
  if (!all) return [];
  const names = Array.from({ length: all.length }, (_, at) => all.key(at) ?? "");
  return names.filter((name) => name.startsWith(NAME)).map((name) => name.slice(NAME.length));
}

/** Says an entry; the batch as it is then. */
export function post(batch: string, { what, sure, key }: ToSay) {
  return answer(
    api.POST("/api/batches/{id}/happenings", {
      params: { path: { id: batch } },
      body: { what, sure },
      headers: { "idempotency-key": key },
    }),
  );
}

/** Sends what an earlier page left unsent, in its order, until all of it was heard. Tells of each batch that changed. */
export async function sendUnsent(changed: (batch: string) => void, over: () => boolean) {
  for (const batch of batchesUnsent()) {
    for (const entry of unsent(batch)) {
      while (!over()) {
        try {
          await post(batch, entry);
          wasHeard(batch, entry.key);
          changed(batch);
          break;
        } catch (error) {
          if (!(error as CallFailed).mayPass) {
            wasHeard(batch, entry.key);
            break;
          }
          await new Promise((done) => setTimeout(done, TRY_AGAIN_MS));
        }
      }
    }
  }
}
