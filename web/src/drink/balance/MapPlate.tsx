import { type ScaleLinear, scaleLinear } from "d3-scale";
import { memo, useId, useMemo, useState } from "react";
import type { BalanceMapData, Spot, Spread } from "../../api/client";
import { colour, displayFont } from "../../ui/theme";
import { useSize } from "../../ui/useSize";
import { initials, type PlacedName, placeNames, sideBySide } from "./names";
import look from "./MapPlate.module.css";

interface MapPlateProps {
  map: BalanceMapData;
  colour: string | undefined;
  name: string;
  /** Where the fruit may take the drink. */
  cloud?: Spread["cloud"];
  /** What was thought before anything was read, fainter. */
  before?: Spread["cloud"];
  /** The target; at the drink itself until it is moved. */
  ring?: Spot | undefined;
  onRing?: (spot: Spot) => void;
  /** Where the drink would come to lie. */
  proposed?: Spot | undefined;
  /** Where those who taste like it best. */
  drinkers?: Drinker[] | undefined;
  /** Where its batches ended, the last first. */
  past?: Place[] | undefined;
  /** Where it lay as it was written before. */
  versions?: Place[] | undefined;
  /** Small, beside something else: where it lies and in which band, and no figures. */
  quiet?: boolean;
}

/** Something with a name that lies on the map. */
interface Place {
  id: string;
  name: string;
  spot: Spot;
}

/** Somebody's ideal on the map, with between what it likely lies. */
export interface Drinker {
  id: string;
  name: string;
  spot: Spot;
  ends: Spot[];
}

/** Room for the figures of the axes. */
const AXES = { left: 34, bottom: 40 };
const NO_AXES = { left: 2, bottom: 2 };
const TOP = 8;
const RIGHT = 10;

/** From figures to places on the plate. */
interface Scale {
  x: ScaleLinear<number, number>;
  y: ScaleLinear<number, number>;
  w: number;
  h: number;
  left: number;
  bottom: number;
}

function scaleOf(width: number, sweetness: number, acidity: number, quiet: boolean): Scale {
  const { left, bottom } = quiet ? NO_AXES : AXES;
  const w = Math.max(width, quiet ? 160 : 240);
  const h = Math.min(Math.max(w * 0.86, quiet ? 140 : 200), 424);
  return {
    w,
    h,
    left,
    bottom,
    x: scaleLinear([0, sweetness], [left, w - RIGHT]),
    y: scaleLinear([0, acidity], [h - bottom, TOP]),
  };
}

/** The balance map: sweetness across, acidity up, rays of equal ratio between the named bands. */
export function MapPlate(props: MapPlateProps) {
  const {
    map,
    colour: liquid,
    name,
    cloud,
    before,
    ring,
    onRing,
    proposed,
    drinkers,
    past,
    versions,
    quiet = false,
  } = props;
  const [box, { width }] = useSize<HTMLDivElement>();
  const clip = useId();
  const { sweetness_max, acidity_max, point } = map;
  const scale = useMemo(
    () => scaleOf(width, sweetness_max, acidity_max, quiet),
    [width, sweetness_max, acidity_max, quiet],
  );
  const { x, y, w, h } = scale;
  const words = point
    ? `${name}: sweetness ${point.sweetness.toFixed(1)} g in 100 g, acidity ${point.acidity.toFixed(2)} %, ${point.band ?? "no acid"}`
    : "Nothing to drink yet";
  const target = ring ?? point ?? undefined;
  // No name stands on the drink itself, nor on its target.
  const large = useMemo(() => [point, ring].filter((spot) => spot != null), [point, ring]);
  const within = (value: number, most: number) => Math.min(Math.max(value, 0), most);
  /** The place on the map under a pointer. */
  const spotAt = (event: { clientX: number; clientY: number }): Spot => {
    const frame = box.current!.getBoundingClientRect();
    return {
      sweetness: within(x.invert(event.clientX - frame.left), sweetness_max),
      acidity: within(y.invert(event.clientY - frame.top), acidity_max),
    };
  };
  return (
    <div ref={box} className={look.plate}>
      <svg
        width={w}
        height={h}
        role="img"
        aria-label={`Balance map. ${words}`}
        style={{ display: "block", cursor: onRing && point ? "crosshair" : undefined }}
        onClick={(event) => point && onRing?.(spotAt(event))}
      >
        <Ground
          scale={scale}
          clip={clip}
          bands={map.bands}
          typical={map.typical}
          sweetnessMax={sweetness_max}
          acidityMax={acidity_max}
          inBand={point?.band ?? undefined}
          quiet={quiet}
        />
        {past && (
          <g data-testid="past" clipPath={`url(#${clip})`}>
            <polyline
              points={[...past.map((p) => p.spot)]
                .map((spot) => `${x(spot.sweetness)},${y(spot.acidity)}`)
                .join(" ")}
              fill="none"
              stroke={colour("ink")}
              strokeOpacity={0.4}
              strokeWidth={1.5}
              strokeDasharray="3 4"
            />
            {past.map(({ id, spot }) => (
              <circle
                key={id}
                cx={x(spot.sweetness)}
                cy={y(spot.acidity)}
                r={6.5}
                fill={liquid}
                fillOpacity={0.55}
                stroke={colour("ink")}
                strokeOpacity={0.6}
                strokeWidth={1.5}
              />
            ))}
          </g>
        )}
        {versions && (
          <g data-testid="versions" clipPath={`url(#${clip})`}>
            {versions.map(({ id, spot }) => (
              <path
                key={id}
                d="M0 -7L7 0L0 7L-7 0Z"
                transform={`translate(${x(spot.sweetness)} ${y(spot.acidity)})`}
                fill={colour("enamel")}
                stroke={colour("ink")}
                strokeWidth={1.8}
              />
            ))}
          </g>
        )}
        <Names scale={scale} places={[...(past ?? []), ...(versions ?? [])]} large={large} />
        {drinkers && drinkers.length > 0 && (
          <Drinkers scale={scale} clip={clip} drinkers={drinkers} />
        )}
        {before && (
          <g opacity={0.4}>
            <CloudShape scale={scale} clip={clip} cloud={before} liquid={liquid} />
          </g>
        )}
        {cloud && <CloudShape scale={scale} clip={clip} cloud={cloud} liquid={liquid} />}
        {point && ring && (
          <path
            d={`M${x(point.sweetness)} ${y(point.acidity)}L${x(ring.sweetness)} ${y(ring.acidity)}`}
            stroke={colour("cobalt")}
            strokeWidth={1.6}
            strokeDasharray="3 4"
          />
        )}
        {ring && !onRing && (
          <circle
            cx={x(ring.sweetness)}
            cy={y(ring.acidity)}
            r={15}
            fill="none"
            stroke={colour("cobalt")}
            strokeWidth={3}
          />
        )}
        {proposed && (
          <circle
            cx={x(proposed.sweetness)}
            cy={y(proposed.acidity)}
            r={6}
            fill={colour("enamel")}
            stroke={colour("ink")}
            strokeWidth={2}
          />
        )}
        {point && (
          <g data-testid="point" transform={`translate(${x(point.sweetness)} ${y(point.acidity)})`}>
            <circle r={15} fill={liquid} fillOpacity={0.25} />
            <circle r={9} fill={liquid} stroke={colour("ink")} strokeWidth={2.4} />
          </g>
        )}
      </svg>
      {onRing && target && point && (
        <Ring
          left={x(target.sweetness)}
          top={y(target.acidity)}
          target={target}
          set={ring !== undefined}
          onDrag={(event) => onRing(spotAt(event))}
          onNudge={(dx, dy) =>
            onRing({
              sweetness: within(target.sweetness + dx * 0.1, sweetness_max),
              acidity: within(target.acidity + dy * 0.01, acidity_max),
            })
          }
        />
      )}
    </div>
  );
}

interface GroundProps {
  scale: Scale;
  clip: string;
  bands: BalanceMapData["bands"];
  typical: BalanceMapData["typical"];
  sweetnessMax: number;
  acidityMax: number;
  /** The band that the drink lies in. */
  inBand: string | undefined;
  quiet: boolean;
}

/** What stands still while the drink moves: the plate, its bands, its axes. */
const Ground = memo(function Ground(props: GroundProps) {
  const { scale, clip, bands, typical, sweetnessMax, acidityMax, inBand, quiet } = props;
  const { x, y, w, h, left, bottom } = scale;
  // Far beyond the plate, so that wedges reach its corners.
  const far = 4;
  const ray = (ratio: number) => {
    const sweet = Math.min(sweetnessMax, acidityMax * ratio) * far;
    return [x(sweet), y(sweet / Math.max(ratio, 1e-6))] as const;
  };
  const origin = [x(0), y(0)] as const;
  return (
    <>
      <clipPath id={clip}>
        <rect x={left} y={TOP} width={w - left - RIGHT} height={h - TOP - bottom} rx={12} />
      </clipPath>
      <g clipPath={`url(#${clip})`}>
        <rect x={left} y={TOP} width={w} height={h} fill={colour("enamel")} />
        {bands
          .filter((band) => band.name === inBand)
          .map((band) => {
            const from = band.ratio_from > 0 ? ray(band.ratio_from) : [x(0), y(acidityMax * far)];
            const to = band.ratio_to != null ? ray(band.ratio_to) : [x(sweetnessMax * far), y(0)];
            const corner = [x(sweetnessMax * far), y(acidityMax * far)];
            return (
              <polygon
                key={band.name}
                points={[origin, from, corner, to].map((p) => p.join(",")).join(" ")}
                fill={colour("wash")}
              />
            );
          })}
        <rect
          x={x(typical.sweetness_from)}
          y={y(typical.acidity_to)}
          width={x(typical.sweetness_to) - x(typical.sweetness_from)}
          height={y(typical.acidity_from) - y(typical.acidity_to)}
          rx={8}
          fill="none"
          stroke={colour("bandName")}
          strokeDasharray="3 4"
        />
        {x.ticks(6).map((t) => (
          <path
            key={`x${t}`}
            d={`M${x(t)} ${TOP}V${h - bottom}`}
            stroke={colour("hairline")}
            strokeOpacity={0.6}
          />
        ))}
        {y.ticks(5).map((t) => (
          <path
            key={`y${t}`}
            d={`M${left} ${y(t)}H${w}`}
            stroke={colour("hairline")}
            strokeOpacity={0.6}
          />
        ))}
        {bands.map((band) =>
          band.ratio_from > 0 ? (
            <path
              key={band.name}
              d={`M${origin.join(" ")}L${ray(band.ratio_from).join(" ")}`}
              stroke={colour("bandName")}
              strokeWidth={1.2}
            />
          ) : null,
        )}
      </g>
      {bands.map((band) => {
        if (quiet && band.name !== inBand) return null;
        const [bx, by] = bandNameAt(band, sweetnessMax, acidityMax);
        return (
          <text
            key={band.name}
            x={quiet ? Math.min(x(bx), w - RIGHT - 34) : x(bx)}
            y={y(by)}
            textAnchor="middle"
            fill={band.name === inBand ? colour("ink") : colour("bandName")}
            style={{ ...displayFont, fontSize: 17, fontWeight: 700 }}
          >
            {band.name}
          </text>
        );
      })}
      {!quiet && (
        <g fill={colour("muted")} style={{ fontSize: 12.5 }}>
          {x.ticks(6).map((t) => (
            <text key={t} x={x(t)} y={h - bottom + 16} textAnchor="middle">
              {t}
            </text>
          ))}
          {y
            .ticks(5)
            .filter((t) => t > 0)
            .map((t) => (
              <text key={t} x={left - 8} y={y(t) + 4} textAnchor="end">
                {t.toFixed(1)}
              </text>
            ))}
          <text x={left} y={h - 6}>
            sweetness, g in 100 g
          </text>
          {/* On a small plate there is no room for more words; the figures beside it say as much. */}
          {w >= 300 && (
            <>
              <text x={left + 12} y={TOP + 20}>
                acidity, % as citric
              </text>
              <text x={w - RIGHT} y={h - 6} textAnchor="end">
                dashed: usual for its kind
              </text>
            </>
          )}
        </g>
      )}
    </>
  );
});

interface CloudProps {
  scale: Scale;
  clip: string;
  cloud: NonNullable<Spread["cloud"]>;
  liquid: string | undefined;
}

/** Where the fruit may take the drink. */
const CloudShape = memo(function CloudShape({ scale, clip, cloud, liquid }: CloudProps) {
  const { x, y } = scale;
  return (
    <g clipPath={`url(#${clip})`} data-testid="cloud">
      {[cloud.most, cloud.half].map((reach) => (
        <polygon
          key={reach}
          points={ellipse(cloud, reach)
            .map((spot) => `${x(spot.sweetness)},${y(spot.acidity)}`)
            .join(" ")}
          fill={liquid}
          fillOpacity={0.28}
          stroke={colour("ink")}
          strokeOpacity={0.16}
        />
      ))}
    </g>
  );
});

interface NamesProps {
  scale: Scale;
  places: Place[];
  /** The drink and its target, which no name stands on. */
  large: Spot[];
}

/** What lies on the map is called, beside it. */
function Names({ scale: { x, y, w }, places, large }: NamesProps) {
  const at = (spot: Spot) => [x(spot.sweetness), y(spot.acidity)] as const;
  const named = places.map((one) => ({ name: one.name, at: at(one.spot) }));
  return placeNames(named, large.map(at), w - RIGHT).map((name, i) => (
    <Name key={places[i]!.id} {...name} />
  ));
}

function Name({ text, x, y, left }: PlacedName) {
  return (
    <text
      x={x}
      y={y + 4}
      textAnchor={left ? "end" : "start"}
      fill={colour("ink")}
      stroke={colour("enamel")}
      strokeWidth={3}
      paintOrder="stroke"
      style={{ fontSize: 12.5 }}
    >
      {text}
    </text>
  );
}

interface DrinkersProps {
  scale: Scale;
  clip: string;
  drinkers: Drinker[];
}

/** Across a person's ring, pixels. */
const PERSON = 20;

/**
 * Each one's ideal as a ring with their initial; the line says how far it may lie from there. The name comes on touch:
 * whole names would cover the bands and each other.
 */
const Drinkers = memo(function Drinkers({ scale, clip, drinkers }: DrinkersProps) {
  const { x, y } = scale;
  const [shown, setShown] = useState<string | undefined>();
  const letters = initials(drinkers.map(({ name }) => name));
  const at = drinkers.map(({ spot }) => [x(spot.sweetness), y(spot.acidity)] as const);
  const placed = sideBySide(at, PERSON);
  const told = drinkers.findIndex(({ id }) => id === shown);
  return (
    <g data-testid="drinkers">
      {drinkers.map((one) => (
        <polyline
          key={one.id}
          clipPath={`url(#${clip})`}
          points={[one.ends[0], one.spot, one.ends[1]]
            .flatMap((spot) => (spot ? [`${x(spot.sweetness)},${y(spot.acidity)}`] : []))
            .join(" ")}
          fill="none"
          stroke={colour("cobalt")}
          strokeOpacity={0.3}
          strokeWidth={5}
          strokeLinecap="round"
        />
      ))}
      {drinkers.map((one, i) => {
        const [left, top] = placed[i]!;
        const show = () => setShown(one.id);
        const hide = () => setShown(undefined);
        return (
          <g
            key={one.id}
            role="img"
            aria-label={one.name}
            tabIndex={0}
            onPointerEnter={show}
            onPointerLeave={hide}
            onFocus={show}
            onBlur={hide}
            style={{ cursor: "default" }}
          >
            <circle
              cx={left}
              cy={top}
              r={PERSON / 2 - 1}
              fill={colour("enamel")}
              stroke={colour("cobalt")}
              strokeWidth={2}
            />
            <text
              x={left}
              y={top + 4}
              textAnchor="middle"
              fill={colour("cobalt")}
              style={{ fontSize: [11.5, 9.5, 8.5][letters[i]!.length - 1], fontWeight: 700 }}
            >
              {letters[i]}
            </text>
          </g>
        );
      })}
      {told >= 0 && (
        <NameShown name={drinkers[told]!.name} at={placed[told]!} right={scale.w - RIGHT} />
      )}
    </g>
  );
});

/** A whole name above its ring, within the plate. */
function NameShown({
  name,
  at: [x, y],
  right,
}: {
  name: string;
  at: [number, number];
  right: number;
}) {
  const half = Math.min(name.length * 3.8 + 8, right / 2);
  const middle = Math.min(Math.max(x, half), right - half);
  return (
    <g pointerEvents="none">
      <rect x={middle - half} y={y - 36} width={2 * half} height={22} rx={6} fill={colour("ink")} />
      <text
        x={middle}
        y={y - 21}
        textAnchor="middle"
        fill={colour("enamel")}
        style={{ fontSize: 12.5, fontWeight: 600 }}
      >
        {name.length > 34 ? `${name.slice(0, 33)}…` : name}
      </text>
    </g>
  );
}

interface RingProps {
  left: number;
  top: number;
  target: Spot;
  set: boolean;
  onDrag: (event: { clientX: number; clientY: number }) => void;
  onNudge: (dx: number, dy: number) => void;
}

/** The target, to be dragged by mouse, finger or arrow keys. */
function Ring({ left, top, target, set, onDrag, onNudge }: RingProps) {
  return (
    <div
      className={set ? `${look.ring} ${look.set}` : look.ring}
      role="slider"
      tabIndex={0}
      aria-label="Target"
      aria-valuenow={Math.round(target.sweetness * 10) / 10}
      aria-valuetext={`sweetness ${target.sweetness.toFixed(1)} g, acidity ${target.acidity.toFixed(2)} %`}
      title="Drag to set the target; arrow keys move it"
      onPointerDown={(event: React.PointerEvent<HTMLDivElement>) => {
        event.currentTarget.setPointerCapture(event.pointerId);
      }}
      onPointerMove={(event: React.PointerEvent<HTMLDivElement>) => {
        if (event.currentTarget.hasPointerCapture(event.pointerId)) onDrag(event);
      }}
      onKeyDown={(event: React.KeyboardEvent) => {
        const steps: Record<string, [number, number]> = {
          ArrowRight: [1, 0],
          ArrowLeft: [-1, 0],
          ArrowUp: [0, 1],
          ArrowDown: [0, -1],
        };
        const by = steps[event.key];
        if (!by) return;
        event.preventDefault();
        const far = event.shiftKey ? 5 : 1;
        onNudge(by[0] * far, by[1] * far);
      }}
      style={{ left: left - 22, top: top - 22 }}
    />
  );
}

/** Points of an ellipse so many standard deviations wide. */
function ellipse({ middle, long, short }: NonNullable<Spread["cloud"]>, reach: number): Spot[] {
  return Array.from({ length: 49 }, (_, i) => {
    const angle = (i / 48) * 2 * Math.PI;
    const [c, s] = [Math.cos(angle) * reach, Math.sin(angle) * reach];
    return {
      sweetness: middle.sweetness + c * long.sweetness + s * short.sweetness,
      acidity: middle.acidity + c * long.acidity + s * short.acidity,
    };
  });
}

/** Where a band's name stands: on its middle ray, near the edge of the plate, clear of the corner. */
function bandNameAt(
  band: BalanceMapData["bands"][number],
  sweetnessMax: number,
  acidityMax: number,
): readonly [number, number] {
  const steepness = (ratio: number) => sweetnessMax / acidityMax / Math.max(ratio, 1e-6);
  const angle = (ratio: number) => Math.atan(steepness(ratio));
  const from = band.ratio_from > 0 ? angle(band.ratio_from) : Math.PI / 2;
  const to = band.ratio_to != null ? angle(band.ratio_to) : 0;
  const middle = (from + to) / 2;
  const reach = Math.min(0.9 / Math.cos(middle), 0.84 / Math.sin(middle), 1.16);
  return [
    Math.max(Math.cos(middle) * reach, 0.12) * sweetnessMax,
    Math.max(Math.sin(middle) * reach, 0.06) * acidityMax,
  ];
}
