import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import useMediaQuery from "@mui/material/useMediaQuery";
import { Redo2, Undo2 } from "lucide-react";

interface UndoButtonsProps {
  canUndo: boolean;
  canRedo: boolean;
  onUndo: () => void;
  onRedo: () => void;
}

export function UndoButtons({ canUndo, canRedo, onUndo, onRedo }: UndoButtonsProps) {
  const small = useMediaQuery("(max-width: 899px)");
  return (
    <Box sx={{ display: "flex" }}>
      <Button
        onClick={onUndo}
        disabled={!canUndo}
        aria-label="Undo"
        aria-keyshortcuts="Control+Z"
        sx={{ minWidth: 44, minHeight: 44, px: 1 }}
      >
        {small ? <Undo2 size={19} aria-hidden /> : "Undo"}
      </Button>
      <Button
        onClick={onRedo}
        disabled={!canRedo}
        aria-label="Redo"
        aria-keyshortcuts="Control+Shift+Z"
        sx={{ minWidth: 44, minHeight: 44, px: 1 }}
      >
        {small ? <Redo2 size={19} aria-hidden /> : "Redo"}
      </Button>
    </Box>
  );
}
