import Box from "@mui/material/Box";
import { Radios } from "../ui/Radios";
import { colour } from "../ui/theme";
import { MarkSign } from "./Mark";
import type { TastingView } from "./queries";

/** Whose turn it is: handed round, each touches their own name. */
export function Turn(props: { view: TastingView; seat: number; onSeat: (seat: number) => void }) {
  const { view, seat, onSeat } = props;
  if (view.seats.length < 2) return null;
  return (
    <Radios label="Who is tasting now?" sx={{ display: "flex", flexWrap: "wrap", gap: 1, mb: 1.5 }}>
      {view.seats.map((one, index) => {
        const found = view.tasters.find((t) => t.id === one.taster);
        if (!found) return null;
        const here = index === seat;
        return (
          <Box
            key={one.taster}
            component="button"
            type="button"
            role="radio"
            aria-checked={here}
            onClick={() => onSeat(index)}
            sx={{
              font: "inherit",
              fontWeight: 600,
              color: "inherit",
              minHeight: 44,
              maxWidth: "100%",
              px: 1.5,
              display: "inline-flex",
              alignItems: "center",
              gap: 1,
              borderRadius: "12px",
              cursor: "pointer",
              bgcolor: colour(here ? "wash" : "enamel"),
              border: `2px solid ${colour(here ? "cobalt" : "hairline")}`,
            }}
          >
            <MarkSign mark={found.taster.mark} />
            <Box
              component="span"
              dir="auto"
              sx={{ overflow: "hidden", textOverflow: "ellipsis", whiteSpace: "nowrap" }}
            >
              {found.taster.name}
            </Box>
            <Box component="span" sx={{ color: colour("muted"), fontWeight: 500 }}>
              {one.finished ? "done" : one.of ? `${one.done} of ${one.of}` : one.done || ""}
            </Box>
          </Box>
        );
      })}
    </Radios>
  );
}

/** The seat that is shown first: of whoever hasn't finished. */
export function firstSeat(view: TastingView): number {
  const there = view.seats.findIndex(
    (seat) => !seat.finished && view.tasters.some((t) => t.id === seat.taster),
  );
  return Math.max(there, 0);
}
