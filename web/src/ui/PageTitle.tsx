import Box from "@mui/material/Box";
import type { ReactNode } from "react";
import { displayFont } from "./theme";

const style = {
  ...displayFont,
  fontSize: 34,
  fontWeight: 700,
  letterSpacing: "-0.02em",
  m: 0,
} as const;

/** What a page is called, at its head; `mt` and `mb` where it stands alone. */
export function PageTitle(props: { children: ReactNode; mt?: number; mb?: number }) {
  const { children, ...room } = props;
  return (
    <Box component="h1" sx={{ ...style, ...room }}>
      {children}
    </Box>
  );
}
