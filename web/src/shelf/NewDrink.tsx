import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Dialog from "@mui/material/Dialog";
import { useState } from "react";
import { useNavigate } from "react-router";
import type { Drink } from "../api/client";
import { useShelfActions, useStartingPoints } from "../api/queries";
import { colour, displayFont } from "../ui/theme";
import { FileButton } from "../ui/FileButton";
import { StartingPoint } from "./StartingPoint";

/** Begins a drink from a starting point or from a file. */
export default function NewDrink({ onClose }: { onClose: () => void }) {
  const { data: starts = [] } = useStartingPoints();
  const { create } = useShelfActions();
  const [wrong, setWrong] = useState<string | undefined>();
  const go = useNavigate();
  const groups = [...new Set(starts.map((start) => start.group))];
  const begin = (drink: Drink) =>
    create.mutate(drink, {
      onSuccess: (made) => void go(`/drinks/${made.id}`),
      onError: (error) => setWrong(error.message),
    });
  const read = async (file: File) => {
    try {
      begin(JSON.parse(await file.text()) as Drink);
    } catch {
      setWrong(`“${file.name}” isn't a drink file.`);
    }
  };
  return (
    <Dialog
      open
      onClose={onClose}
      slotProps={{
        paper: {
          "aria-labelledby": "new-drink",
          sx: { width: 760, maxWidth: "calc(100% - 24px)", m: 1.5 },
        },
      }}
    >
      <Box sx={{ p: 3, pb: 1.5 }}>
        <Box
          component="h2"
          id="new-drink"
          sx={{ ...displayFont, fontSize: 24, fontWeight: 700, m: 0 }}
        >
          Start with
        </Box>
      </Box>
      <Box sx={{ px: 3, pb: 1, overflowY: "auto" }}>
        {groups.map((group) => (
          <Box key={group} component="section" aria-label={group} sx={{ mb: 1.5 }}>
            {group !== "Blank" && (
              <Box
                component="h3"
                sx={{ fontSize: 14, fontWeight: 600, color: colour("muted"), m: 0 }}
              >
                {group}
              </Box>
            )}
            <Box
              component="ul"
              sx={{
                listStyle: "none",
                m: 0,
                p: 0,
                display: "grid",
                gridTemplateColumns: { xs: "1fr", sm: "1fr 1fr" },
                columnGap: 2,
              }}
            >
              {starts
                .filter((start) => start.group === group)
                .map((start) => (
                  <li key={start.id}>
                    <StartingPoint start={start} onBegin={() => begin(start.drink)} />
                  </li>
                ))}
            </Box>
          </Box>
        ))}
      </Box>
      <Box sx={{ px: 3, py: 2, display: "flex", alignItems: "center", gap: 1, flexWrap: "wrap" }}>
        <FileButton
          what="A drink's file"
          accept="application/json,.json"
          onFile={(file) => void read(file)}
          variant="outlined"
        >
          From a file
        </FileButton>
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
