import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { useState } from "react";
import { colour } from "../ui/theme";
import type { TastingView } from "./queries";
import { useSay } from "./useSay";

/** Breaking the key ends it: asked once more. */
export function BreakKey({ view }: { view: TastingView }) {
  const { say, wrong, waits } = useSay(view.id);
  const [sure, setSure] = useState(false);
  const left = view.seats.filter(
    (seat) => !seat.finished && view.tasters.some((t) => t.id === seat.taster),
  ).length;
  return (
    <>
      {!sure ? (
        <Button
          variant={left === 0 ? "contained" : "outlined"}
          onClick={() => setSure(true)}
          sx={{ minHeight: 52 }}
        >
          Reveal the glasses
        </Button>
      ) : (
        <Button
          variant="contained"
          disabled={waits}
          onClick={() => say("broken")}
          sx={{ minHeight: 52 }}
        >
          {left > 0
            ? `${left} ${left === 1 ? "hasn’t" : "haven’t"} finished. Reveal them now`
            : "Show the results and stop"}
        </Button>
      )}
      {wrong && (
        <Box role="alert" sx={{ color: colour("stop") }}>
          {wrong}
        </Box>
      )}
    </>
  );
}
