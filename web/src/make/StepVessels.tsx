import Box from "@mui/material/Box";
import type { BatchView } from "../api/client";
import { colour } from "../ui/theme";
import { temperature, volume, weight } from "../ui/format";
import { VesselDrawing } from "../ui/vessel";

interface VesselsProps {
  view: BatchView;
  /** The step that is to be done; without one, what waits. */
  step: string | undefined;
}

/** How high the tallest is drawn, px. */
const HIGH = 124;

/** The vessels that the step works on, as they stand now: what is done in full, what is ahead faintly. */
export function StepVessels({ view, step }: VesselsProps) {
  const { stands } = view;
  const { frames } = stands.report;
  const running = stands.steps.filter((s) => s.state === "running").map((s) => s.id);
  const touched = frames
    .filter((f) => (step ? f.step === step : running.includes(f.step)))
    .flatMap((f) => f.states.map((state) => state.vessel));
  const into = step ? frames.find((f) => f.step === step)?.states.at(-1)?.vessel : undefined;
  const done = new Set(stands.steps.filter((s) => s.state !== "ahead").map((s) => s.id));
  /** A vessel after the last thing that was done on it. */
  const state = (name: string) =>
    frames
      .filter((frame) => done.has(frame.step))
      .flatMap((frame) => frame.states)
      .filter((s) => s.vessel === name)
      .at(-1);
  const vessels = stands.report.vessels.filter((v) => touched.includes(v.id));
  const tallest = Math.max(...vessels.map((v) => v.height_mm), 1);
  if (vessels.length === 0) return null;
  return (
    <Box
      component="section"
      aria-label="Vessels of this step"
      sx={{
        display: "flex",
        alignItems: "flex-end",
        flexWrap: "wrap",
        columnGap: 3.5,
        rowGap: 1.5,
      }}
    >
      {vessels.map((v) => {
        const here = state(v.id);
        const height = Math.max((v.height_mm / tallest) * HIGH, 26);
        const width = Math.min(Math.max((v.diameter_mm / tallest) * HIGH, 26), 130);
        return (
          <Box key={v.id} data-next={v.id === into || undefined} sx={{ minWidth: 84 }}>
            <svg
              width={width + 26}
              height={height + 14}
              aria-hidden
              overflow="visible"
              opacity={here ? 1 : 0.42}
            >
              <g transform={`translate(${width / 2 + 4} ${height + 12})`}>
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
            <Box sx={{ borderTop: `3px solid ${colour("ink")}`, pt: 0.5 }}>
              <Box sx={{ fontWeight: 600, fontSize: 15 }}>{v.name}</Box>
              <Box sx={{ fontSize: 13.5, color: colour("muted") }}>
                {!here
                  ? "empty"
                  : here.level_ml < 1
                    ? "emptied"
                    : v.strains
                      ? `holds ${weight(here.mass_g)}`
                      : `${volume(here.level_ml)}, ${temperature(here.temperature_c)}`}
              </Box>
            </Box>
          </Box>
        );
      })}
    </Box>
  );
}
