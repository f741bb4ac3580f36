import { Note } from "../ui/Note";

/** The server can't be reached, or can't save now; what was changed is in the browser's own storage. */
export function NotSavedYet({ why }: { why: string }) {
  return (
    <Note kind="notice">
      {why} Your changes are safe in this browser. We'll save them as soon as possible.
    </Note>
  );
}
