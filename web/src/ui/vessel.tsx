import { memo, useId } from "react";
import type { VesselKind } from "../api/client";
import { colour } from "./theme";

/** What a vessel's picture shows. */
export interface VesselPicture {
  kind: VesselKind;
  /** Outer width and height in px. */
  width: number;
  height: number;
  /** 0 to 1 of the capacity; above 1 it is over the brim. */
  fill: number;
  liquid: string;
  /** Colours of solid pieces, with commas between. */
  pieces?: string;
  ice?: boolean;
  /** Without its handle, where its width says something else than how wide it is. */
  plain?: boolean;
}

const WALL = 2;

/** Inside outline from the rim down and up again, in a box of w by h. */
function outline(kind: VesselKind, w: number, h: number): string {
  const r = Math.min(w, h) * 0.14;
  switch (kind) {
    case "bowl":
    case "colander":
    case "sieve":
    case "fine_sieve":
      return `M0 0 C0 ${h * 0.75} ${w * 0.22} ${h} ${w * 0.4} ${h} H${w * 0.6} C${w * 0.78} ${h} ${w} ${h * 0.75} ${w} 0`;
    case "cloth":
    case "bag":
      return `M0 0 C${w * 0.04} ${h * 0.5} ${w * 0.3} ${h * 0.8} ${w * 0.5} ${h} C${w * 0.7} ${h * 0.8} ${w * 0.96} ${h * 0.5} ${w} 0`;
    case "glass": {
      const taper = w * 0.1;
      return `M0 0 L${taper} ${h - r} Q${taper} ${h} ${taper + r} ${h} H${w - taper - r} Q${w - taper} ${h} ${w - taper} ${h - r} L${w} 0`;
    }
    case "bottle": {
      const neck = w * 0.32;
      const shoulder = h * 0.24;
      return `M${neck} 0 V${shoulder * 0.5} Q${neck} ${shoulder * 0.8} ${w * 0.08} ${shoulder} Q0 ${shoulder * 1.1} 0 ${shoulder * 1.35} V${h - r} Q0 ${h} ${r} ${h} H${w - r} Q${w} ${h} ${w} ${h - r} V${shoulder * 1.35} Q${w} ${shoulder * 1.1} ${w * 0.92} ${shoulder} Q${w - neck} ${shoulder * 0.8} ${w - neck} ${shoulder * 0.5} V0`;
    }
    case "blender": {
      const taper = w * 0.14;
      return `M0 0 L${taper} ${h - r} Q${taper} ${h} ${taper + r} ${h} H${w - taper - r} Q${w - taper} ${h} ${w - taper} ${h - r} L${w} 0`;
    }
    default:
      return `M0 0 V${h - r} Q0 ${h} ${r} ${h} H${w - r} Q${w} ${h} ${w} ${h - r} V0`;
  }
}

/** How high a share of the capacity stands: rounded vessels fill faster at first. */
function heightOf(kind: VesselKind, fill: number): number {
  const f = Math.max(0, Math.min(fill, 1));
  switch (kind) {
    case "bowl":
    case "colander":
    case "sieve":
    case "fine_sieve":
    case "cloth":
    case "bag":
      return f ** 0.72;
    case "bottle":
      return f * 0.82;
    default:
      return f;
  }
}

function isStrainer(kind: VesselKind): boolean {
  return ["colander", "sieve", "fine_sieve", "cloth", "bag"].includes(kind);
}

/** A vessel standing with its foot on y = 0, drawn upwards; the group's origin is its middle. */
export const VesselDrawing = memo(function VesselDrawing({
  kind,
  width: w,
  height: h,
  fill,
  liquid,
  pieces,
  ice,
  plain = false,
}: VesselPicture) {
  const clip = useId();
  const over = fill > 1.0005;
  const level = heightOf(kind, fill) * h;
  const rim = over ? colour("stop") : colour("cobalt");
  const shape = outline(kind, w, h);
  const handle = !plain && (kind === "jug" || kind === "pitcher");
  const rimInset = kind === "bottle" ? w * 0.28 : plain ? 0 : -3;
  return (
    <g transform={`translate(${-w / 2} ${-h})`}>
      <clipPath id={clip}>
        <path d={`${shape} Z`} />
      </clipPath>
      {handle && (
        <path
          d={`M${w} ${h * 0.16} C${w + Math.min(26, w * 0.34)} ${h * 0.16} ${w + Math.min(26, w * 0.34)} ${h * 0.66} ${w} ${h * 0.66}`}
          fill="none"
          stroke={colour("ink")}
          strokeWidth={4}
        />
      )}
      {kind === "pot" && !plain && (
        <path
          d={`M${w} ${h * 0.16} H${w + Math.min(36, w * 0.4)}`}
          stroke={colour("cobalt")}
          strokeWidth={6}
          strokeLinecap="round"
        />
      )}
      <path d={`${shape} Z`} fill={colour("enamel")} />
      <g clipPath={`url(#${clip})`}>
        <rect
          x={0}
          width={w}
          fill={liquid}
          className="kp-level"
          style={{ y: h - level, height: level + 1 }}
        />
        {level > 3 && (
          <rect
            x={0}
            width={w}
            height={2.5}
            fill={colour("glint")}
            opacity={0.45}
            className="kp-level"
            style={{ y: h - level }}
          />
        )}
        {pieces && <Pieces colours={pieces.split(",")} width={w} height={h} level={level} />}
        {ice && <Ice width={w} top={h - level} />}
        {isStrainer(kind) && kind !== "cloth" && kind !== "bag" && <Mesh width={w} height={h} />}
      </g>
      {over && (
        <path d={`M2 0 Q${w / 2} ${-Math.min(14, 4 + fill * 5)} ${w - 2} 0 Z`} fill={liquid} />
      )}
      <path
        d={shape}
        fill="none"
        stroke={colour("ink")}
        strokeWidth={WALL}
        strokeLinejoin="round"
      />
      {kind === "blender" && (
        <path
          d={`M${w * 0.1} ${h} H${w * 0.9}`}
          stroke={colour("ink")}
          strokeWidth={6}
          strokeLinecap="round"
        />
      )}
      {kind === "cloth" || kind === "bag" ? (
        <path
          d={`M-6 0 H${w + 6}`}
          stroke={rim}
          strokeWidth={3}
          strokeDasharray="5 4"
          strokeLinecap="round"
        />
      ) : (
        <path
          d={`M${rimInset} 0 H${w - rimInset}`}
          stroke={rim}
          strokeWidth={4}
          strokeLinecap="round"
        />
      )}
    </g>
  );
});

function Pieces({
  colours,
  width,
  height,
  level,
}: {
  colours: string[];
  width: number;
  height: number;
  level: number;
}) {
  const count = Math.max(5, Math.min(14, Math.round(width / 9)));
  const heap = Math.min(Math.max(level, height * 0.12), height * 0.5);
  return (
    <>
      {Array.from({ length: count }, (_, i) => {
        // A scatter that stays the same from one drawing to the next.
        const x = width * (0.12 + 0.76 * ((i * 0.7549) % 1));
        const y = height - 4 - heap * 0.75 * ((i * 0.5698) % 1);
        return (
          <ellipse
            key={i}
            cx={x}
            cy={y}
            rx={5.5}
            ry={3.2}
            transform={`rotate(${(i * 67) % 180} ${x} ${y})`}
            fill={colours[i % colours.length]}
            stroke={colour("ink")}
            strokeOpacity={0.35}
            strokeWidth={0.8}
          />
        );
      })}
    </>
  );
}

function Ice({ width, top }: { width: number; top: number }) {
  return (
    <>
      {[0.2, 0.48, 0.72].map((at, i) => (
        <rect
          key={at}
          x={width * at - 5}
          y={top + 1 + i}
          width={11}
          height={11}
          rx={2}
          transform={`rotate(${i * 24 - 18} ${width * at} ${top + 6})`}
          fill={colour("glint")}
          fillOpacity={0.6}
          stroke={colour("ink")}
          strokeOpacity={0.4}
        />
      ))}
    </>
  );
}

function Mesh({ width, height }: { width: number; height: number }) {
  const lines = Math.max(4, Math.floor(width / 9));
  return (
    <g stroke={colour("ink")} strokeOpacity={0.45} strokeWidth={1}>
      {Array.from({ length: lines }, (_, i) => {
        const x = ((i + 0.5) / lines) * width;
        return <path key={i} d={`M${x} 3 L${width / 2 + (x - width / 2) * 0.8} ${height - 2}`} />;
      })}
    </g>
  );
}
