import Box from "@mui/material/Box";
import { useSettled } from "./useSettled";

/** Nobody is told figures that are still moving. */
const SETTLED_MS = 1200;

/** Out of sight, and still read aloud. */
const hidden = {
  position: "absolute",
  width: 1,
  height: 1,
  overflow: "hidden",
  clipPath: "inset(50%)",
  whiteSpace: "nowrap",
} as const;

/** Says something to those who listen to the screen, once it has come to rest. */
export function Spoken({ text }: { text: string }) {
  const settled = useSettled(text, SETTLED_MS);
  return (
    <Box aria-live="polite" sx={hidden}>
      {settled}
    </Box>
  );
}
