import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import type { BatchView } from "../api/client";
import { colour } from "../ui/theme";
import { momentOf, until } from "./clock";
import type { Say } from "./useBatch";
import { told } from "./words";

/** Everything that was said of a batch, the last first; what was wrong is taken back. */
export function Happened({ view, say }: { view: BatchView; say: Say }) {
  const list = view.said.map((said, place) => ({ ...said, place })).reverse();
  return (
    <Box
      component="ol"
      aria-label="Log"
      sx={{ listStyle: "none", m: 0, mt: 2, p: 0, maxWidth: 760 }}
    >
      {list.length === 0 && <li>No entries yet.</li>}
      {list.map(({ at, what, place }) => {
        const gone = view.taken_back.includes(place);
        return (
          <Box
            component="li"
            key={place}
            sx={{
              display: "flex",
              alignItems: "center",
              gap: 1.5,
              minHeight: 48,
              borderBottom: `1px solid ${colour("hairline")}`,
            }}
          >
            <Box sx={{ color: colour("muted"), width: 52, flexShrink: 0 }}>
              {until(momentOf(view.begun_at, at), momentOf(view.begun_at, at))}
            </Box>
            <Box
              sx={{
                flex: 1,
                minWidth: 0,
                overflowWrap: "anywhere",
                textDecoration: gone ? "line-through" : "none",
              }}
            >
              {told(what, view.stands)}
            </Box>
            {!gone && !("taken_back" in what) && (
              <Button
                aria-label={`Undo: ${told(what, view.stands)}`}
                onClick={() => void say({ taken_back: { of: place } })}
              >
                Undo
              </Button>
            )}
          </Box>
        );
      })}
    </Box>
  );
}
