import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { answer, api, type ShelfEntry } from "../api/client";
import { useTags } from "../api/queries";
import { TitledDialog } from "../ui/TitledDialog";
import { colour } from "../ui/theme";
import { Trouble } from "../ui/Trouble";
import { makeStale } from "../api/keys";

const apart = (text: string) =>
  text
    .split(",")
    .map((word) => word.trim())
    .filter(Boolean);

/** Files a drink under words, so that it is found again among many. */
export default function File({ entry, onClose }: { entry: ShelfEntry; onClose: () => void }) {
  const client = useQueryClient();
  const [text, setText] = useState(entry.tags.join(", "));
  const { data: known = [] } = useTags();
  const save = useMutation({
    mutationFn: () =>
      answer(
        api.PUT("/api/drinks/{id}/tags", {
          params: { path: { id: entry.id } },
          body: { tags: apart(text) },
        }),
      ),
    onSuccess: () => {
      void makeStale(client, "drink");
      onClose();
    },
  });
  const words = apart(text);
  return (
    <TitledDialog title={entry.name} width={480} onClose={onClose}>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          save.mutate();
        }}
      >
        <TextField
          fullWidth
          autoFocus
          label="Tags, separated by commas"
          value={text}
          onChange={(event) => setText(event.target.value)}
        />
        <Box sx={{ display: "flex", flexWrap: "wrap", gap: 1, mt: 1.5 }}>
          {known
            .filter(({ tag }) => !words.includes(tag))
            .map(({ tag }) => (
              <Button
                key={tag}
                variant="outlined"
                onClick={() => setText([...words, tag].join(", "))}
              >
                {tag}
              </Button>
            ))}
        </Box>
        <Trouble error={save.error ?? undefined} />
        <Box sx={{ display: "flex", gap: 1, mt: 2, color: colour("muted") }}>
          <Button type="submit" variant="contained">
            Save tags
          </Button>
          <Button onClick={onClose}>Not now</Button>
        </Box>
      </form>
    </TitledDialog>
  );
}
