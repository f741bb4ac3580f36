import Box from "@mui/material/Box";
import { displayFont } from "./theme";
import { useTitle } from "./useTitle";

const style = {
  ...displayFont,
  fontSize: 34,
  fontWeight: 700,
  letterSpacing: "-0.02em",
  m: 0,
} as const;

/** What a page is called, at its head and in the window's tab; `mt` and `mb` where it stands alone. */
export function PageTitle(props: { children: string; mt?: number; mb?: number }) {
  const { children, ...room } = props;
  useTitle(children);
  return (
    <Box component="h1" sx={{ ...style, ...room }}>
      {children}
    </Box>
  );
}
