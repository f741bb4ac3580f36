import Box from "@mui/material/Box";
import Dialog from "@mui/material/Dialog";
import { useId, type ReactNode } from "react";
import { displayFont } from "./theme";

type TitledDialogProps = {
  title: ReactNode;
  width: number;
  onClose: () => void;
  children: ReactNode;
};

/** A sheet over the view, named by its title. */
export function TitledDialog({ title, width, onClose, children }: TitledDialogProps) {
  const id = useId();
  return (
    <Dialog
      open
      onClose={onClose}
      slotProps={{
        paper: {
          "aria-labelledby": id,
          sx: { width, maxWidth: "calc(100% - 24px)", m: 1.5 },
        },
      }}
    >
      <Box sx={{ p: { xs: 2, sm: 3 }, display: "grid", gap: 2 }}>
        <Box component="h2" id={id} sx={{ ...displayFont, fontSize: 24, fontWeight: 700, m: 0 }}>
          {title}
        </Box>
        {children}
      </Box>
    </Dialog>
  );
}
