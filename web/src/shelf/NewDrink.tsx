import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Dialog from "@mui/material/Dialog";
import { useRef, useState } from "react";
import { useNavigate } from "react-router";
import type { Drink } from "../api/client";
import { useShelfActions, useStartingPoints } from "../api/queries";
import { colour, displayFont } from "../app/theme";

/** Begins a drink from a starting point or from a file. */
export function NewDrink({ onClose }: { onClose: () => void }) {
  const { data: starts = [] } = useStartingPoints();
  const { create } = useShelfActions();
  const [wrong, setWrong] = useState<string | undefined>();
  const file = useRef<HTMLInputElement>(null);
  const go = useNavigate();
  const begin = (drink: Drink) =>
    create.mutate(drink, {
      onSuccess: (made) => void go(`/drinks/${made.id}`),
      onError: (error) => setWrong(error.message),
    });
  const read = async (file: File | undefined) => {
    if (!file) return;
    try {
      begin(JSON.parse(await file.text()) as Drink);
    } catch {
      setWrong(`“${file.name}” holds no drink: it is not well-formed JSON.`);
    }
  };
  return (
    <Dialog
      open
      onClose={onClose}
      slotProps={{ paper: { "aria-labelledby": "new-drink", sx: { width: 560 } } }}
    >
      <Box sx={{ p: 3, pb: 1.5 }}>
        <Box
          component="h2"
          id="new-drink"
          sx={{ ...displayFont, fontSize: 24, fontWeight: 700, m: 0 }}
        >
          Begin with
        </Box>
      </Box>
      <Box component="ul" sx={{ listStyle: "none", m: 0, px: 1.5, pb: 1 }}>
        {starts.map((start) => (
          <li key={start.id}>
            <Button
              fullWidth
              onClick={() => begin(start.drink)}
              sx={{ display: "block", textAlign: "left", color: colour("ink"), py: 1.25 }}
            >
              <Box
                component="span"
                sx={{ display: "block", color: colour("cobalt"), fontSize: 17 }}
              >
                {start.name}
              </Box>
              <Box
                component="span"
                sx={{ display: "block", fontWeight: 400, color: colour("muted"), fontSize: 14 }}
              >
                {start.description}
              </Box>
            </Button>
          </li>
        ))}
      </Box>
      <Box sx={{ px: 3, pb: 2.5, display: "flex", alignItems: "center", gap: 1, flexWrap: "wrap" }}>
        <Button variant="outlined" onClick={() => file.current?.click()}>
          From a file
        </Button>
        <input
          ref={file}
          type="file"
          accept="application/json,.json"
          aria-label="A drink's file"
          onChange={(event) => void read(event.target.files?.[0])}
          hidden
        />
        <Box sx={{ flex: 1 }} />
        <Button onClick={onClose}>Not now</Button>
        {wrong && (
          <Box role="alert" sx={{ color: colour("stop"), flexBasis: "100%" }}>
            {wrong}
          </Box>
        )}
      </Box>
    </Dialog>
  );
}
