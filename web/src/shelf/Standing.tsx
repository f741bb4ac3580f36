import type { Schemas } from "../api/client";
import { VesselDrawing } from "../ui/vessel";

type Summary = Schemas["Summary"];

/** What a drink ends up in, standing on the lower edge in its colour. */
export function Standing({ of, width, height }: { of: Summary; width: number; height: number }) {
  const kind = of.stands_in === "bottle" ? "bottle" : of.stands_in === "jug" ? "jug" : "pitcher";
  const share = kind === "bottle" ? [0.36, 0.9] : [0.56, 0.78];
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
          width={Math.min(height, width) * share[0]!}
          height={height * share[1]!}
          fill={of.fill}
          liquid={of.colour ?? "transparent"}
        />
      </g>
    </svg>
  );
}
