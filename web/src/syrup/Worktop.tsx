import { useId } from "react";
import type { Syrup } from "../api/client";
import { colour } from "../ui/theme";
import { depth, volume } from "../ui/format";
import { useSize } from "../ui/useSize";
import { VesselDrawing } from "../ui/vessel";
import look from "./Worktop.module.css";

interface WorktopProps {
  syrup: Syrup;
  /** Inside diameter of the pot, mm. */
  pot: number;
  /** The strength to boil it down to, °Bx; undefined if it isn't boiled down. */
  reduced: number | undefined;
  /** Undefined where it isn't boiled down at all. */
  onReduce: (brix: number | undefined) => void;
  /** Sweetness of the glass that is shown. */
  glass: number;
}

/** The bottles that people have, ml. */
const BOTTLES = [250, 500, 750, 1000];
const HEIGHT = 150;
const FLOOR = 174;

/** The smallest bottle that holds it all, or as many of the largest as it takes. */
export function bottlesFor(ml: number): { size: number; many: number } {
  const size = BOTTLES.find((bottle) => ml <= bottle * 0.97) ?? 1000;
  return { size, many: Math.max(1, Math.ceil(ml / (size * 0.97))) };
}

/** The strength whose line is nearest to a height in the pot. */
export function strengthAt(levels: Syrup["levels"], mm: number): number | undefined {
  let best = levels[0];
  for (const level of levels)
    if (best && Math.abs(level.mm - mm) < Math.abs(best.mm - mm)) best = level;
  return best?.brix;
}

/** The syrup in its pot, bottled, and thinned into a glass. The pot's line is dragged to where it is boiled down. */
export function Worktop({ syrup, pot, reduced, onReduce, glass }: WorktopProps) {
  const [box, { width }] = useSize<HTMLDivElement>();
  const hint = useId();
  const { levels } = syrup;
  const [first, last] = [levels[0], levels.at(-1)];
  const narrow = width < 560;
  const potWide = Math.min(narrow ? 120 : 200, Math.max(80, pot));
  // A litre of syrup stands two fingers high in a pot: drawn higher than it is, its line can be dragged.
  const full = (first?.mm ?? 1) * 1.35;
  const tall = HEIGHT / full;
  const level = syrup.water_line_mm ?? first?.mm ?? 0;
  const dilution = syrup.dilutions.find((d) => d.sweetness === glass) ?? syrup.dilutions[0];
  const { size, many } = bottlesFor(syrup.volume_ml);
  const drawn = Math.min(many, narrow ? 1 : 3);
  const places = narrow ? [0.2, 0.56, 0.86] : [0.2, 0.55, 0.86];
  const [potAt, bottleAt, glassAt] = places.map((share) => share * width) as [
    number,
    number,
    number,
  ];
  const lineAt = FLOOR - level * tall;
  const boilTo = (brix: number) => {
    const to = brix <= (first?.brix ?? 0) ? undefined : brix;
    if (to !== reduced) onReduce(to);
  };
  const drag = (event: React.PointerEvent<SVGGElement>) => {
    if (event.buttons === 0) return;
    const svg = event.currentTarget.ownerSVGElement;
    if (!svg) return;
    const from = FLOOR - (event.clientY - svg.getBoundingClientRect().top);
    const brix = strengthAt(levels, from / tall);
    if (brix !== undefined) boilTo(brix);
  };
  const nudge = (by: number) => {
    if (!first || !last) return;
    const from = Math.round(reduced ?? first.brix);
    boilTo(Math.max(first.brix, Math.min(last.brix, from + by)));
  };
  const keys: Record<string, number> = {
    ArrowDown: 1,
    ArrowRight: 1,
    ArrowUp: -1,
    ArrowLeft: -1,
    PageDown: 5,
    PageUp: -5,
  };
  const glassFill = dilution ? dilution.syrup_ml / 250 : 0;
  return (
    <div ref={box} className={look.worktop}>
      {width > 0 && (
        <svg width={width} height={FLOOR + 6} role="group" aria-label="On the worktop">
          <path d={`M0 ${FLOOR + 1}H${width}`} stroke={colour("ink")} strokeWidth={2.5} />
          <g transform={`translate(${potAt} ${FLOOR})`}>
            <VesselDrawing
              kind="pot"
              width={potWide}
              height={HEIGHT}
              fill={level / full}
              liquid={syrup.colour}
            />
          </g>
          {Array.from({ length: drawn }, (_, n) => (
            <g key={n} transform={`translate(${bottleAt + (n - (drawn - 1) / 2) * 62} ${FLOOR})`}>
              <VesselDrawing
                kind="bottle"
                width={52}
                height={60 + size * 0.09}
                fill={Math.min(1, (syrup.volume_ml - n * size * 0.97) / size)}
                liquid={syrup.colour}
              />
            </g>
          ))}
          {dilution && (
            <g transform={`translate(${glassAt} ${FLOOR})`}>
              <VesselDrawing
                kind="glass"
                width={58}
                height={104}
                fill={0.9}
                liquid={dilution.colour}
              />
              <path
                d={`M-26 ${-glassFill * 104 * 0.9}H26`}
                stroke={colour("cobalt")}
                strokeWidth={2}
                strokeDasharray="4 3"
              />
            </g>
          )}
          {first && last && (
            <g
              role="slider"
              tabIndex={0}
              aria-label="Boil down to"
              aria-describedby={hint}
              aria-orientation="vertical"
              aria-valuemin={first.brix}
              aria-valuemax={last.brix}
              aria-valuenow={Math.round(syrup.brix)}
              aria-valuetext={`${syrup.brix.toFixed(0)} °Bx`}
              className={look.line}
              transform={`translate(${potAt} ${lineAt})`}
              onPointerDown={(event) => event.currentTarget.setPointerCapture(event.pointerId)}
              onPointerMove={drag}
              onKeyDown={(event) => {
                const by = keys[event.key];
                if (by === undefined) return;
                event.preventDefault();
                nudge(by);
              }}
            >
              <rect x={-potWide / 2} y={-22} width={potWide} height={44} fill="transparent" />
              <path d={`M${-potWide / 2 + 2} 0H${potWide / 2 - 2}`} />
              <circle r={9} />
            </g>
          )}
        </svg>
      )}
      <div className={look.names}>
        <div style={{ left: potAt }}>
          <b>
            {syrup.brix.toFixed(0)} °Bx, {depth(level)} deep
          </b>
          <span id={hint}>drag the line to boil it down</span>
        </div>
        <div style={{ left: bottleAt }}>
          <b>{volume(syrup.volume_ml)}</b>
          <span>
            {many === 1 ? "a bottle" : `${many} bottles`} of{" "}
            {size === 1000 ? "1 litre" : `${size} ml`}
          </span>
        </div>
        {dilution && (
          <div style={{ left: glassAt }}>
            <b>{volume(dilution.syrup_ml)} syrup</b>
            <span>and {volume(dilution.water_ml)} water or soda</span>
          </div>
        )}
      </div>
    </div>
  );
}
