import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import { useId, useState } from "react";
import type { BatchView } from "../api/client";
import { displayFont } from "../ui/theme";
import { useTasters } from "../drink/balance/useDrinkers";
import type { Say } from "./useBatch";
import { told } from "./words";

/** What guests said of a batch: kept in its log. */
export function GuestsSaid({ view, say }: { view: BatchView; say: Say }) {
  const [by, setBy] = useState("");
  const [text, setText] = useState("");
  const { data: tasters } = useTasters();
  const names = useId();
  const said = view.said.filter(
    ({ what }, place) => "note" in what && what.note.by && !view.taken_back.includes(place),
  );
  return (
    <Box component="section" aria-label="What guests said" sx={{ mt: 3, maxWidth: 620 }}>
      <Box component="h3" sx={{ ...displayFont, fontSize: 20, fontWeight: 700, m: 0, mb: 1 }}>
        What guests said
      </Box>
      {said.map(({ at, what }) => (
        <Box key={`${at} ${told(what, view.stands)}`} dir="auto" sx={{ overflowWrap: "anywhere" }}>
          {told(what, view.stands)}
        </Box>
      ))}
      <Box
        component="form"
        sx={{ display: "flex", flexWrap: "wrap", gap: 1, mt: 1 }}
        onSubmit={(event: React.FormEvent) => {
          event.preventDefault();
          if (!by.trim() || !text.trim()) return;
          void say({ note: { text: text.trim(), by: by.trim() } }).then(() => setText(""));
        }}
      >
        <TextField
          size="small"
          label="Who"
          value={by}
          onChange={(event) => setBy(event.target.value)}
          slotProps={{ htmlInput: { list: names, maxLength: 60, dir: "auto" } }}
          sx={{ width: 190 }}
        />
        <datalist id={names}>
          {tasters?.map((view) => (
            <option key={view.id} value={view.taster.name} />
          ))}
        </datalist>
        <TextField
          size="small"
          label="said"
          value={text}
          onChange={(event) => setText(event.target.value)}
          slotProps={{ htmlInput: { maxLength: 500, dir: "auto" } }}
          sx={{ flex: "1 1 200px" }}
        />
        <Button type="submit" variant="outlined" disabled={!by.trim() || !text.trim()}>
          Save
        </Button>
      </Box>
    </Box>
  );
}
