import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import { useState } from "react";
import { colour } from "../ui/theme";
import type { TastingView } from "./queries";
import { useSay } from "./useSay";

/** A remark of whoever tastes, kept with the tasting. */
export function Remark({ view, taster }: { view: TastingView; taster: string }) {
  const [text, setText] = useState("");
  const { say, wrong, waits } = useSay(view.id);
  const remarks = view.seats.find((seat) => seat.taster === taster)?.remarks ?? [];
  return (
    <Box sx={{ mt: 3, maxWidth: 620 }}>
      {remarks.map((remark, i) => (
        <Box key={i} sx={{ mb: 0.5, overflowWrap: "anywhere" }} dir="auto">
          “{remark}”
        </Box>
      ))}
      <Box
        component="form"
        sx={{ display: "flex", gap: 1 }}
        onSubmit={(event: React.FormEvent) => {
          event.preventDefault();
          if (text.trim()) say({ remark: { taster, text } }, () => setText(""));
        }}
      >
        <TextField
          size="small"
          label="Note (optional)"
          value={text}
          onChange={(event) => setText(event.target.value)}
          sx={{ flex: 1 }}
          slotProps={{ htmlInput: { maxLength: 500, dir: "auto" } }}
        />
        <Button type="submit" disabled={!text.trim() || waits}>
          Save
        </Button>
      </Box>
      {wrong && (
        <Box role="alert" sx={{ color: colour("stop") }}>
          {wrong}
        </Box>
      )}
    </Box>
  );
}
