import type { Schemas } from "../api/client";
import { VesselDrawing } from "../ui/vessel";

type Summary = Schemas["Summary"];

/** How much of the picture each kind of vessel takes, across and up. */
const share = {
  bottle: [0.36, 0.9],
  glass: [0.42, 0.56],
  jug: [0.56, 0.78],
  pitcher: [0.56, 0.78],
} as const;

/** What a drink ends up in, standing on the lower edge in its colour. */
export function Standing({ of, width, height }: { of: Summary; width: number; height: number }) {
  const kind = of.stands_in in share ? (of.stands_in as keyof typeof share) : "pitcher";
  const [wide, high] = share[kind];
  return (
    <svg
      viewBox={`0 0 ${width} ${height}`}
      width={width}
      height={height}
      aria-hidden
      style={{ display: "block", maxWidth: "100%" }}
    >
      <g transform={`translate(${width / 2} ${height})`}>
        <VesselDrawing
          kind={kind}
          width={Math.min(height, width) * wide}
          height={height * high}
          fill={of.fill}
          liquid={of.colour ?? "transparent"}
        />
      </g>
    </svg>
  );
}
