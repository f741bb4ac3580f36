import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import useMediaQuery from "@mui/material/useMediaQuery";
import { memo, useState } from "react";
import type { Drink, DrinkReport, StateReport, VesselReport } from "../../api/client";
import { colour } from "../../ui/theme";
import { temperature, volume, weight } from "../../ui/format";
import { useSize } from "../../ui/useSize";
import { VesselDrawing } from "../../ui/vessel";
import type { Editor } from "../editing/editor";
import look from "./Counter.module.css";
import { PANEL, VesselPanel } from "./VesselPanel";

interface CounterProps {
  editor: Editor;
  drink: Drink;
  report: DrinkReport;
  chosen: string | undefined;
  onChoose: (vessel: string | undefined) => void;
  /** Lower, where something else needs the room. */
  low?: boolean;
  /** A line of names until it is touched, where a table needs the room; on a phone it always is. */
  folds?: boolean;
  /** Each vessel in the middle of a column as wide as every other, under what is told above it. */
  aligned?: boolean;
  /** What is in each vessel at the moment that is looked at; at its fullest if no moment is. */
  moment?: Map<string, StateReport> | undefined;
  /** What stands on the worktop's edge under the vessels. */
  children?: React.ReactNode;
}

/** The vessels that stand on the counter, in order. */
export const standingOf = (report: DrinkReport) =>
  report.vessels.filter((v) => v.fullest || !v.strains);

/** How narrow a column may get in which a vessel's steps stand above it. */
export const COLUMN = 150;
const LABEL = 46;
const HANDLE = 34;

/** The worktop along the lower edge: the drink's vessels, to one scale, with what is in them. */
export const Counter = memo(function Counter(props: CounterProps) {
  const { editor, drink, report, chosen, onChoose, low = false, aligned = false, moment } = props;
  const { folds = false } = props;
  const [box, { width }] = useSize<HTMLDivElement>();
  const small = useMediaQuery("(max-width: 700px)");
  const [open, setOpen] = useState(false);
  const foldable = small || folds;
  const folded = foldable && !open;
  const standing = standingOf(report);
  const height = folded ? 0 : small || low ? 96 : 156;
  const room = Math.max(width, aligned ? standing.length * COLUMN : 320);
  const layout = arrange(standing, room, height, small, aligned);
  const total = Math.max(layout.total, width);
  const vessel = report.vessels.find((v) => v.id === chosen);

  return (
    <Box
      component="section"
      aria-label="The counter"
      sx={{
        position: "sticky",
        bottom: 0,
        mt: "auto",
        bgcolor: colour("ground"),
        borderTop: { xs: `1px solid ${colour("hairline")}`, md: 0 },
        zIndex: 4,
      }}
    >
      <Box ref={box} sx={{ overflowX: "auto", overflowY: "hidden" }}>
        <Box
          sx={{ position: "relative", height: folded ? LABEL : height + LABEL + 12 }}
          style={{ width: total }}
        >
          <svg
            width={total}
            height={height + 12}
            aria-hidden
            display={folded ? "none" : undefined}
            style={{ position: "absolute", insetInlineStart: 0, top: 0 }}
          >
            {report.streams.map((stream) => (
              <Stream
                key={`${stream.from}-${stream.into}`}
                from={layout.places.get(stream.from)}
                into={layout.places.get(stream.into)}
                colour={stream.colour}
                floor={height + 8}
              />
            ))}
            {standing.map((v) => {
              const place = layout.places.get(v.id);
              if (!place) return null;
              const state = moment ? moment.get(v.id) : v.fullest;
              const level = state?.level_ml ?? 0;
              const fill = v.strains
                ? Math.min(level / v.capacity_ml, 1)
                : (level + (moment ? 0 : v.over_ml)) / v.capacity_ml;
              return (
                <g key={v.id}>
                  {place.columns.map((x) => (
                    <g key={x} transform={`translate(${x} ${height + 8 - place.lift})`}>
                      <VesselDrawing
                        kind={v.kind}
                        width={place.width}
                        height={place.height}
                        fill={fill}
                        liquid={state?.colour ?? "transparent"}
                        pieces={state?.pieces.map((piece) => piece.colour).join(",")}
                        ice={(state?.ice_g ?? 0) > 1}
                      />
                    </g>
                  ))}
                </g>
              );
            })}
            <path d={`M0 ${height + 9}H${total}`} stroke={colour("ink")} strokeWidth={2.5} />
          </svg>
          <Box
            sx={{
              position: "absolute",
              left: 0,
              right: 0,
              bottom: 0,
              height: LABEL,
              bgcolor: colour("worktop"),
            }}
          />
          {standing.map((v) => {
            const place = layout.places.get(v.id);
            if (!place) return null;
            return (
              <button
                type="button"
                key={v.id}
                className={v.id === chosen ? `${look.vessel} ${look.chosen}` : look.vessel}
                data-vessel={v.id}
                aria-pressed={v.id === chosen}
                aria-label={`${v.name}: ${lineOf(v, moment)}`}
                onClick={() => {
                  if (folded) setOpen(true);
                  // On a phone the vessels alone fill the screen.
                  if (!folded || !small) onChoose(v.id === chosen ? undefined : v.id);
                }}
                style={{ left: place.left, width: place.column }}
              >
                <span className={look.label}>
                  <span className={look.name}>{manyOf(v)}</span>
                  <span className={v.over_ml > 0 ? `${look.state} ${look.over}` : look.state}>
                    {lineOf(v, moment)}
                  </span>
                </span>
              </button>
            );
          })}
        </Box>
      </Box>
      {foldable && open && (
        <Button
          onClick={() => {
            setOpen(false);
            onChoose(undefined);
          }}
          sx={{ position: "absolute", right: 8, top: -44, bgcolor: colour("enamel") }}
        >
          Fold the counter
        </Button>
      )}
      {props.children}
      {vessel && (
        <VesselPanel
          key={vessel.id}
          editor={editor}
          drink={drink}
          report={report}
          vessel={vessel}
          left={panelAt(layout.places.get(vessel.id), width)}
          onClose={() => onChoose(undefined)}
        />
      )}
    </Box>
  );
});

/** What it is called; how many, where it stands for several. */
function manyOf(v: VesselReport): string {
  if (v.count <= 1) return v.name;
  return `${v.count} ${v.kind === "bottle" ? "bottles" : "glasses"}`;
}

/** One line on what is in a vessel, at a moment if one is looked at. */
function lineOf(v: VesselReport, moment: Map<string, StateReport> | undefined): string {
  if (!moment) return stateLine(v);
  const state = moment.get(v.id);
  if (!state || state.mass_g < 1) return "empty";
  if (v.strains) return `holds ${weight(state.mass_g)}`;
  return `${volume(state.level_ml)}, ${temperature(state.temperature_c)}`;
}

/** One line on what is in a vessel at its fullest. */
function stateLine(v: VesselReport): string {
  const state = v.fullest;
  if (!state) return "not used";
  if (v.strains) return `holds ${weight(v.last?.mass_g ?? 0)}`;
  if (v.over_ml > 0) return `${volume(v.over_ml)} too much`;
  if (v.kind === "glass") return state.level_ml < 0.5 ? "empty" : volume(state.level_ml);
  return `${volume(state.level_ml)} of ${volume(v.capacity_ml)}`;
}

interface Place {
  left: number;
  column: number;
  width: number;
  height: number;
  /** How far above the worktop it hangs. */
  lift: number;
  /** Middles of what is drawn: several for glasses. */
  columns: number[];
}

/** Where a vessel's panel stands: over the vessel, inside the screen. */
function panelAt(place: Place | undefined, width: number): number {
  const middle = place ? place.left + place.column / 2 : 0;
  return Math.max(8, Math.min(middle - PANEL / 2, width - PANEL - 8));
}

const GLASSES_SHOWN = 4;

/** Puts the vessels side by side, to the largest common scale that fits height and, if it can, width. */
function arrange(
  vessels: VesselReport[],
  width: number,
  height: number,
  small: boolean,
  aligned: boolean,
) {
  const equal = width / Math.max(vessels.length, 1);
  const leastColumn = aligned ? equal : small ? 108 : 128;
  const tallest = Math.max(...vessels.map((v) => v.height_mm), 1);
  const widths = (scale: number) =>
    vessels.map((v) => {
      const shown = Math.min(v.count, GLASSES_SHOWN);
      const extra = v.kind === "jug" || v.kind === "pitcher" || v.kind === "pot" ? HANDLE : 0;
      const wanted = v.diameter_mm * scale * shown + (shown - 1) * 16 + extra;
      return Math.max(wanted, leastColumn);
    });
  const sum = (list: number[]) => list.reduce((a, b) => a + b, 0);
  // Room above the tallest for what stands over a brim, and for the streams.
  const fitHeight = (height - 22) / tallest;
  let scale = fitHeight;
  // A phone scrolls sideways instead of shrinking everything to nothing.
  const room = aligned ? width + 1 : width - 24;
  while (!small && scale > fitHeight / 3 && sum(widths(scale)) > room) scale *= 0.95;
  const columns = aligned ? vessels.map(() => equal) : widths(scale);
  const used = sum(columns);
  const gap = aligned ? 0 : Math.max(0, Math.min((width - used) / (vessels.length + 1), 90));
  const places = new Map<string, Place>();
  let left = Math.max(gap, (width - used - gap * (vessels.length - 1)) / 2);
  vessels.forEach((v, i) => {
    const column = columns[i]!;
    const w = Math.max(v.diameter_mm * scale, 14);
    const h = Math.max(v.height_mm * scale, 14);
    const shown = Math.min(v.count, GLASSES_SHOWN);
    const middle = left + column / 2;
    places.set(v.id, {
      left,
      column,
      width: w,
      height: h,
      lift: v.strains ? Math.max(18, Math.min(height * 0.42, height - h - 30)) : 1,
      columns: Array.from({ length: shown }, (_, n) => middle + (n - (shown - 1) / 2) * (w + 16)),
    });
    left += column + gap;
  });
  return { places, total: Math.max(left, width) };
}

/** A stream of liquid from one vessel's rim into the next. */
function Stream({
  from,
  into,
  colour: liquid,
  floor,
}: {
  from: Place | undefined;
  into: Place | undefined;
  colour: string;
  floor: number;
}) {
  if (!from || !into) return null;
  const forward = into.columns[0]! > from.columns[0]!;
  const side = forward ? 1 : -1;
  const hangs = from.lift > 1;
  const last = forward ? from.columns.at(-1)! : from.columns[0]!;
  // A hanging strainer drips from its foot, a vessel pours over its rim.
  const fromX = hangs ? last + side * from.width * 0.14 : last + side * (from.width / 2 + 1);
  const fromY = floor - from.lift - (hangs ? -2 : from.height + 1);
  const target = into.columns[forward ? 0 : into.columns.length - 1]!;
  const intoX = target - side * into.width * 0.24;
  const intoY = floor - into.lift - into.height + 1;
  const top = hangs ? intoY - 4 : Math.max(Math.min(fromY, intoY) - 14, 4);
  const reach = Math.min(Math.abs(intoX - fromX) * 0.5, 70) * side;
  return (
    <path
      d={`M${fromX} ${fromY} C${fromX + reach * (hangs ? 0.6 : 0.9)} ${hangs ? fromY + 6 : top} ${intoX - reach * 0.7} ${top} ${intoX} ${intoY}`}
      fill="none"
      stroke={liquid}
      strokeWidth={5}
      strokeLinecap="round"
      opacity={0.85}
    />
  );
}
