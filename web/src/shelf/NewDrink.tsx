import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Dialog from "@mui/material/Dialog";
import type { Drink } from "../api/client";
import { colour, displayFont } from "../ui/theme";
import { FileButton } from "../ui/FileButton";
import { StartingPoints, useStart } from "./StartingPoints";

/** Begins a drink from a starting point or from a file. */
export default function NewDrink({ onClose }: { onClose: () => void }) {
  const { start, wrong, setWrong } = useStart();
  const read = async (file: File) => {
    try {
      start(JSON.parse(await file.text()) as Drink);
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
        <StartingPoints narrow />
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
