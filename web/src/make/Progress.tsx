import Box from "@mui/material/Box";
import type { BatchView } from "../api/client";
import { colour } from "../ui/theme";
import { temperature, volume, weight } from "../ui/format";
import { VesselDrawing } from "../ui/vessel";

/** The counter as it stands now: what is done in full, what is ahead faintly. */
export function Progress({ view }: { view: BatchView }) {
  const { stands } = view;
  // Where the next step leads to.
  const next = stands.report.frames.find((f) => f.step === stands.next)?.states.at(-1)?.vessel;
  const done = new Set(stands.steps.filter((s) => s.state !== "ahead").map((s) => s.id));
  /** A vessel after the last thing that was done on it. */
  const state = (name: string) =>
    stands.report.frames
      .filter((frame) => done.has(frame.step))
      .flatMap((frame) => frame.states)
      .filter((s) => s.vessel === name)
      .at(-1);
  const vessels = stands.report.vessels.filter(
    (v) => v.id !== "poured_away" && (v.fullest || !v.strains),
  );
  const tallest = Math.max(...vessels.map((v) => v.height_mm), 1);
  return (
    <Box
      component="section"
      aria-label="The counter now"
      tabIndex={0}
      sx={{ overflowX: "auto", flexShrink: 0 }}
    >
      <Box
        sx={{
          display: "flex",
          justifyContent: { md: "center" },
          gap: { xs: 2.5, md: 7 },
          px: 3,
          minWidth: "min-content",
        }}
      >
        {vessels.map((v) => {
          const here = state(v.id);
          const height = Math.max((v.height_mm / tallest) * 92, 22);
          const width = Math.min(Math.max((v.diameter_mm / tallest) * 92, 24), 120);
          return (
            <Box key={v.id} sx={{ textAlign: "center", minWidth: 84 }}>
              <svg width={width + 64} height={104} aria-hidden opacity={here ? 1 : 0.42}>
                <g transform={`translate(${width / 2 + 26} 102)`}>
                  <VesselDrawing
                    kind={v.kind}
                    width={width}
                    height={height}
                    fill={here ? Math.min(here.level_ml / v.capacity_ml, 1.1) : 0}
                    liquid={here?.colour ?? "transparent"}
                    pieces={here?.pieces.map((piece) => piece.colour).join(",")}
                    ice={(here?.ice_g ?? 0) > 1}
                  />
                </g>
              </svg>
              <Box sx={{ borderTop: `3px solid ${colour("ink")}` }} />
              <Box
                data-next={v.id === next || undefined}
                sx={{
                  px: 1,
                  pt: 0.25,
                  pb: 0.5,
                  mt: 0.5,
                  mb: 1,
                  borderRadius: "10px",
                  border: `2px solid ${v.id === next ? colour("cobalt") : "transparent"}`,
                  bgcolor: v.id === next ? colour("enamel") : "transparent",
                }}
              >
                <Box sx={{ fontWeight: 600, fontSize: 14 }}>{v.name}</Box>
                <Box sx={{ fontSize: 12.5, color: colour("muted") }}>
                  {!here
                    ? "ahead"
                    : here.level_ml < 1
                      ? "emptied"
                      : v.strains
                        ? `keeps ${weight(here.mass_g)}`
                        : `${volume(here.level_ml)}, ${temperature(here.temperature_c)}`}
                </Box>
              </Box>
            </Box>
          );
        })}
      </Box>
    </Box>
  );
}
