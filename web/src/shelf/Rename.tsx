import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Dialog from "@mui/material/Dialog";
import TextField from "@mui/material/TextField";
import { useState } from "react";
import type { ShelfEntry } from "../api/client";
import { useShelfActions } from "../api/queries";

/** Asks for a drink's new name. */
export default function Rename({ entry, onClose }: { entry: ShelfEntry; onClose: () => void }) {
  const [name, setName] = useState(entry.name);
  const { rename } = useShelfActions();
  return (
    <Dialog open onClose={onClose} slotProps={{ paper: { "aria-label": `Rename ${entry.name}` } }}>
      <Box
        component="form"
        onSubmit={(event: React.FormEvent) => {
          event.preventDefault();
          rename.mutate({ id: entry.id, name: name.trim() }, { onSuccess: onClose });
        }}
        sx={{ p: 3, display: "grid", gap: 2, width: 420, maxWidth: "100%" }}
      >
        <TextField
          label="Name"
          value={name}
          autoFocus
          error={rename.isError}
          helperText={rename.error?.message}
          onChange={(event) => setName(event.target.value)}
        />
        <Box sx={{ display: "flex", justifyContent: "flex-end", gap: 1 }}>
          <Button onClick={onClose}>Cancel</Button>
          <Button type="submit" variant="contained" disabled={rename.isPending}>
            Rename
          </Button>
        </Box>
      </Box>
    </Dialog>
  );
}
