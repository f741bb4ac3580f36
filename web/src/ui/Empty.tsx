import Box from "@mui/material/Box";
import type { ReactNode } from "react";
import { colour } from "./theme";

/** A place with nothing in it yet: what it is for, and the next step. */
export function Empty({ children, action }: { children: ReactNode; action?: ReactNode }) {
  return (
    <Box sx={{ py: 3, maxWidth: 640, fontSize: 17, color: colour("muted") }}>
      {children}
      {action && (
        <Box sx={{ display: "flex", flexWrap: "wrap", gap: 1, mt: 2, fontSize: 15 }}>{action}</Box>
      )}
    </Box>
  );
}
