import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { colour } from "./theme";

interface TroubleProps {
  /** What went wrong; nothing is shown without. */
  error: Error | undefined;
  /** Asks again, where that may help. */
  again?: (() => void) | undefined;
}

/** A question that found no answer: why, and another try. */
export function Trouble({ error, again }: TroubleProps) {
  if (!error) return null;
  return (
    <Box
      role="alert"
      sx={{
        display: "flex",
        flexWrap: "wrap",
        alignItems: "center",
        gap: 1,
        color: colour("stop"),
      }}
    >
      {error.message}
      {again && (
        <Button variant="text" onClick={again}>
          Try again
        </Button>
      )}
    </Box>
  );
}
