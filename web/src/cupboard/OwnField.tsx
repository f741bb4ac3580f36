import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import { useState } from "react";
import { colour } from "../ui/theme";
import { numberIn } from "../ui/reading";

interface OwnFieldProps {
  label: string;
  unit: string;
  /** What is reckoned with. */
  value: number | null | undefined;
  /** The figure of one's own, if there is one. */
  own: number | null | undefined;
  /** What the table's figure rests on: "from the tables", "estimated, 4.5 to 8". */
  rests: string;
  places: number;
  /** Sets one's own figure, or takes it away; says what is wrong, if anything is. */
  onSet: (own: number | undefined) => Promise<string | undefined>;
}

/** A figure that can be replaced by one's own, and put back with one press. */
export function OwnField({ label, unit, value, own, rests, places, onSet }: OwnFieldProps) {
  const [typed, setTyped] = useState<string | undefined>();
  const [wrong, setWrong] = useState<string | undefined>();
  const shown = value == null ? "" : Number(value.toFixed(places)).toString();
  const commit = async () => {
    if (typed === undefined || typed.trim() === shown) return setTyped(undefined);
    const { number, wrong: unread } = await numberIn("number", typed);
    if (unread) return setWrong(unread);
    const problem = await onSet(number);
    setWrong(problem);
    if (!problem) setTyped(undefined);
  };
  return (
    <Box>
      <TextField
        size="small"
        fullWidth
        label={`${label}, ${unit}`}
        value={typed ?? shown}
        error={wrong !== undefined}
        helperText={wrong}
        onChange={(event) => {
          setTyped(event.target.value);
          setWrong(undefined);
        }}
        onBlur={() => void commit()}
        onKeyDown={(event) => event.key === "Enter" && void commit()}
        slotProps={{ htmlInput: { inputMode: "decimal" } }}
      />
      <Box
        sx={{
          fontSize: 12.5,
          color: colour("muted"),
          display: "flex",
          alignItems: "center",
          minHeight: 24,
        }}
      >
        {own == null ? (
          rests
        ) : (
          <>
            measured here
            <Button
              onClick={() => void onSet(undefined)}
              aria-label={`Reset ${label}`}
              sx={{ minHeight: 24, py: 0, px: 1, fontSize: 12.5 }}
            >
              Reset
            </Button>
          </>
        )}
      </Box>
    </Box>
  );
}
