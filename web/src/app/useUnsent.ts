import { useQueryClient } from "@tanstack/react-query";
import { useEffect } from "react";
import { batchesUnsent, sendUnsent } from "../make/unsent";
import { makeStale } from "../api/keys";

const LOOK_MS = 10_000;

/** Sends what was said at the stove and not heard, by a page that was closed or left, as soon as it can be. */
export function useUnsent() {
  const client = useQueryClient();
  useEffect(() => {
    let over = false;
    let sending = false;
    const look = async () => {
      if (sending || batchesUnsent().length === 0) return;
      sending = true;
      const changed = (batch: string) => void makeStale(client, "batch", batch);
      await sendUnsent(changed, () => over);
      sending = false;
    };
    void look();
    const every = setInterval(() => void look(), LOOK_MS);
    return () => {
      over = true;
      clearInterval(every);
    };
  }, [client]);
}
