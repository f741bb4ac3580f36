import Button from "@mui/material/Button";
import { useQueryClient, type Query } from "@tanstack/react-query";
import { useCallback, useSyncExternalStore } from "react";
import { useComplaints } from "../api/complaints";
import { Note } from "./Note";

/** Nothing of it is there, somebody waits for it, and no part of the screen says so by itself. */
const isMissed = (query: Query) =>
  query.meta?.shared === true &&
  query.state.status === "error" &&
  query.state.data === undefined &&
  query.isActive();

/** What a screen needs and couldn't get, and what couldn't be done, said once for all its parts. */
export function Unloaded() {
  const client = useQueryClient();
  const cache = client.getQueryCache();
  const missed = useSyncExternalStore(
    useCallback((changed) => cache.subscribe(changed), [cache]),
    () => cache.getAll().find((query) => isMissed(query))?.state.error?.message ?? "",
  );
  const { text, complain } = useComplaints();
  return (
    <>
      {missed && (
        <Note
          kind="stop"
          action={
            <Button onClick={() => void client.refetchQueries({ predicate: isMissed })}>
              Try again
            </Button>
          }
        >
          We couldn't load part of this screen. {missed}
        </Note>
      )}
      {text && (
        <Note kind="stop" action={<Button onClick={() => complain("")}>Close</Button>}>
          {text}
        </Note>
      )}
    </>
  );
}
