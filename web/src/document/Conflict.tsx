import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { when } from "../ui/format";
import { Note } from "../ui/Note";

interface ConflictProps {
  /** "drink", "plan". */
  what: string;
  /** When the other change was saved. */
  changedAt: string;
  onKeepMine: () => void;
  onTakeTheirs: () => void;
  onKeepBoth: () => void;
}

/** Two windows have changed the same document: the cook chooses, and nothing is lost. */
export function Conflict(props: ConflictProps) {
  const { what, changedAt, onKeepMine, onTakeTheirs, onKeepBoth } = props;
  return (
    <Note
      kind="notice"
      action={
        <Box sx={{ display: "flex", flexWrap: "wrap" }}>
          <Button onClick={onKeepMine}>Keep my version</Button>
          <Button onClick={onTakeTheirs}>Use the other version</Button>
          <Button onClick={onKeepBoth}>Keep both</Button>
        </Box>
      }
    >
      You changed this {what} in another window too ({when(changedAt)}). Choose which version to
      keep. “Keep both” saves yours as a new {what}.
    </Note>
  );
}
