import Box from "@mui/material/Box";
import { Link } from "react-router";
import { colour, displayFont } from "../ui/theme";
import { left, momentOf, until } from "../make/clock";
import { useGoing } from "../make/Going";
import { momentNow, useNow } from "../make/hooks";

/** What is being made now, with what waits and what needs hands; nothing where nothing is. */
export function OnTheGo() {
  const { batches, heardAt } = useGoing();
  const now = useNow();
  if (batches.length === 0) return null;
  return (
    <Box component="section" aria-label="In progress" sx={{ mb: 3 }}>
      <Box component="h2" sx={{ ...displayFont, fontSize: 22, fontWeight: 700, m: 0, mb: 0.75 }}>
        In progress
      </Box>
      <Box
        component="ul"
        sx={{ listStyle: "none", m: 0, p: 0, display: "flex", flexWrap: "wrap", gap: 1 }}
      >
        {batches.map((batch) => {
          const at = momentNow(batch, heardAt, now);
          const wait = batch.waits[0];
          const to = wait ? momentOf(batch.begun_at, wait.until) : 0;
          const state = batch.next
            ? batch.next.replace(/\.$/, "")
            : wait
              ? to <= at
                ? `over: ${wait.sentence.replace(/\.$/, "")}`
                : `${left(to, at)}, until ${until(to, at)}: ${wait.sentence.replace(/\.$/, "")}`
              : "all steps done";
          return (
            <Box
              component="li"
              key={batch.id}
              sx={{ minWidth: 0, flex: "1 1 300px", maxWidth: 440 }}
            >
              <Box
                component={Link}
                to={`/make/${batch.id}`}
                sx={{
                  display: "flex",
                  alignItems: "center",
                  gap: 1.5,
                  px: 2,
                  minHeight: 56,
                  borderRadius: "12px",
                  bgcolor: colour("enamel"),
                  color: colour("ink"),
                  textDecoration: "none",
                }}
              >
                <Box
                  aria-hidden
                  sx={{ width: 14, height: 14, borderRadius: "50%", flexShrink: 0 }}
                  style={{ background: batch.colour ?? colour("muted") }}
                />
                <Box sx={{ minWidth: 0, py: 1 }}>
                  <Box sx={{ fontWeight: 600 }}>
                    {batch.name}
                    {batch.practice && ", practice"}
                  </Box>
                  <Box
                    sx={{
                      fontSize: 14,
                      color: colour("muted"),
                      overflow: "hidden",
                      textOverflow: "ellipsis",
                      whiteSpace: "nowrap",
                    }}
                  >
                    {state}
                  </Box>
                </Box>
              </Box>
            </Box>
          );
        })}
      </Box>
    </Box>
  );
}
