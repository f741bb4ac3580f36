import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import type { BatchView } from "../api/client";
import { colour } from "../app/theme";
import { left, momentOf, share, until } from "./clock";
import type { Say } from "./useBatch";

/** What goes on by itself, the one that is over first. */
export function Waits({ view, now, say }: { view: BatchView; now: number; say: Say }) {
  const running = view.stands.steps
    .filter((step) => step.state === "running")
    .map((step) => ({
      step,
      from: momentOf(view.begun_at, step.since ?? 0),
      to: momentOf(view.begun_at, step.until ?? 0),
    }))
    .sort((a, b) => a.to - b.to);
  if (running.length === 0) return null;
  return (
    <Box
      component="ul"
      aria-label="Waits"
      sx={{ listStyle: "none", m: 0, p: 0, display: "flex", flexWrap: "wrap", gap: 1 }}
    >
      {running.map(({ step, from, to }) => {
        const frame = view.stands.report.frames.find((f) => f.step === step.id);
        const over = to <= now;
        return (
          <Box
            component="li"
            key={step.id}
            data-wait={step.id}
            sx={{
              display: "flex",
              alignItems: "center",
              gap: 1.5,
              pl: 2,
              pr: 0.75,
              minHeight: 48,
              borderRadius: "12px",
              bgcolor: colour(over ? "notice" : "enamel"),
              color: colour(over ? "onNotice" : "ink"),
              maxWidth: "100%",
            }}
          >
            <Box
              sx={{
                minWidth: 0,
                overflow: "hidden",
                textOverflow: "ellipsis",
                whiteSpace: { sm: "nowrap" },
              }}
            >
              {frame?.sentence}
            </Box>
            <Box role="timer" sx={{ fontWeight: 700, whiteSpace: "nowrap" }}>
              {over ? "over" : `${left(to, now)}, until ${until(to, now)}`}
            </Box>
            <Box
              aria-hidden
              sx={{
                width: 72,
                height: 6,
                borderRadius: 3,
                bgcolor: colour("track"),
                display: { xs: "none", sm: "block" },
                flexShrink: 0,
              }}
            >
              <Box
                sx={{ height: 6, borderRadius: 3, bgcolor: colour("cobalt") }}
                style={{ width: `${100 * share(from, to, now)}%` }}
              />
            </Box>
            <Button
              aria-label={`Done: ${frame?.sentence ?? ""}`}
              onClick={() => void say({ done: { step: step.id } })}
              sx={{ color: "inherit", textDecoration: "underline" }}
            >
              Done
            </Button>
          </Box>
        );
      })}
    </Box>
  );
}
