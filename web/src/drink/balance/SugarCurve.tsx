import useMediaQuery from "@mui/material/useMediaQuery";
import type { Schemas } from "../../api/client";
import { colour } from "../../ui/theme";

const height = 230;
const room = { left: 34, right: 16, top: 14, bottom: 40 };
const most = 8;

interface SugarCurveProps {
  lean: Schemas["Lean"];
  way: Schemas["LeanWay"];
  point: Schemas["LeanPoint"] | undefined;
}

/** Where the axis begins: a little under the least sugar, at a round figure. */
const beginning = (least: number) => Math.max(0, Math.floor((least * 0.9) / 5) * 5);

/** Sugar in a glass across, how far that is from what is liked upward. Below the line nobody notices. */
export function SugarCurve({ lean, way, point }: SugarCurveProps) {
  // A phone draws it narrower, not smaller.
  const width = useMediaQuery("(max-width: 600px)") ? 340 : 620;
  const top = Math.max(lean.now_g, ...lean.points.map((p) => p.sugar_g)) * 1.08;
  const from = beginning(Math.min(lean.now_g, ...lean.points.map((p) => p.sugar_g)));
  const x = (grams: number) =>
    room.left + ((grams - from) / (top - from)) * (width - room.left - room.right);
  const y = (steps: number) =>
    height - room.bottom - (Math.min(steps, most) / most) * (height - room.top - room.bottom);
  const line = (of: Schemas["LeanWay"]) => {
    const mine = lean.points.filter((p) => p.way === of);
    const all = [{ sugar_g: lean.now_g, steps: lean.now_steps }, ...mine];
    return all.map((p) => `${x(p.sugar_g)},${y(p.steps)}`).join(" ");
  };
  const ticks = [0, 5, 10, 15, 20, 25, 30, 40, 50].filter((grams) => grams >= from && grams <= top);
  const text = { fontSize: 13, fill: colour("muted") };
  return (
    <svg
      viewBox={`0 0 ${width} ${height}`}
      role="img"
      aria-label="How far the drink is from what people like, by the sugar in a glass"
      style={{ width: "100%", height: "auto", display: "block" }}
    >
      <rect
        x={room.left}
        y={y(1)}
        width={width - room.left - room.right}
        height={y(0) - y(1)}
        fill={colour("wash")}
      />
      <text x={room.left + 6} y={y(0.32)} {...text}>
        nobody notices
      </text>
      <line
        x1={room.left}
        x2={width - room.right}
        y1={y(0)}
        y2={y(0)}
        stroke={colour("ink")}
        strokeWidth={1.5}
      />
      {ticks.map((grams) => (
        <text key={grams} x={x(grams)} y={height - 22} textAnchor="middle" {...text}>
          {grams}
        </text>
      ))}
      <text x={width - room.right} y={height - 4} textAnchor="end" {...text}>
        sugar in a glass, g
      </text>
      {[2, 4, 6].map((steps) => (
        <text key={steps} x={room.left - 8} y={y(steps) + 4} textAnchor="end" {...text}>
          {steps}
        </text>
      ))}
      <text x={room.left + 6} y={room.top + 6} {...text}>
        noticeable steps
      </text>
      {(["thinner", "tarter", "sweetener"] as const).map((of) => (
        <polyline
          key={of}
          points={line(of)}
          fill="none"
          stroke={colour(of === way ? "cobalt" : "hairline")}
          strokeWidth={of === way ? 3 : 2}
          strokeDasharray={of === "sweetener" ? "7 5" : undefined}
        />
      ))}
      <circle cx={x(lean.now_g)} cy={y(lean.now_steps)} r={6} fill={colour("ink")} />
      <text x={x(lean.now_g)} y={y(lean.now_steps) - 10} textAnchor="middle" {...text}>
        now
      </text>
      {point && (
        <circle
          data-point=""
          cx={x(point.sugar_g)}
          cy={y(point.steps)}
          r={10}
          fill={colour("cobalt")}
          stroke={colour("enamel")}
          strokeWidth={3}
        />
      )}
    </svg>
  );
}
