import Box from "@mui/material/Box";
import { scaleLinear, scaleSqrt } from "d3-scale";
import { useQuestion } from "../../api/ask";
import { answer, api, asking, type Drink, type Steeping as Curve } from "../../api/client";
import { colour } from "../../ui/theme";
import { span } from "../../ui/format";
import { Trouble } from "../../ui/Trouble";
import { useSize } from "../../ui/useSize";
import { keys } from "../../api/keys";

const HEIGHT = 108;
const BOTTOM = 20;

/** What is drawn by when, and when more time brings nothing, or bitterness. */
export function Steeping({ drink, step }: { drink: Drink; step: string }) {
  const { data, error, again } = useQuestion(keys.steeping(drink.steps, step), (signal) =>
    answer(
      api.POST("/api/compute/steeping", {
        body: { drink, step },
        headers: asking(`steeping ${step}`),
        signal,
      }),
    ),
  );
  if (!data) return <Trouble error={error} again={again} />;
  const words = [
    data.enough_after != null
      ? `Almost everything is extracted after ${span(data.enough_after)}; longer adds little.`
      : "A longer steep extracts more.",
    data.bitter_after != null && `It starts to taste bitter after ${span(data.bitter_after)}.`,
  ].filter(Boolean);
  return (
    <Box>
      <Plot curve={data} />
      <Box sx={{ fontSize: 13.5, color: colour("ink"), mt: 0.5 }}>
        {words.join(" ")}{" "}
        <Box component="span" sx={{ color: colour("muted") }}>
          Estimated: could be half or double.
        </Box>
      </Box>
    </Box>
  );
}

function Plot({ curve }: { curve: Curve }) {
  const [box, { width }] = useSize<HTMLDivElement>();
  const w = Math.max(width, 200);
  const longest = curve.points.at(-1)?.minutes ?? 1;
  const x = scaleSqrt([0, longest], [4, w - 6]);
  const y = scaleLinear([0, 1], [HEIGHT - BOTTOM, 6]);
  const bitterest = Math.max(1.5, ...curve.points.map((p) => p.bitterness));
  const line = (read: (p: Curve["points"][number]) => number) =>
    curve.points.map((p, i) => `${i ? "L" : "M"}${x(p.minutes)} ${y(read(p))}`).join("");
  const now = curve.points.reduce((best, p) =>
    Math.abs(p.minutes - curve.minutes) < Math.abs(best.minutes - curve.minutes) ? p : best,
  );
  return (
    <div ref={box}>
      <svg
        width={w}
        height={HEIGHT}
        role="img"
        aria-label={`Extracted: ${Math.round(now.drawn * 100)} % after ${span(curve.minutes)}`}
        style={{ display: "block" }}
      >
        <path d={`M4 ${HEIGHT - BOTTOM}H${w - 6}`} stroke={colour("hairline")} />
        <path
          d={`M${x(curve.minutes)} 6V${HEIGHT - BOTTOM}`}
          stroke={colour("cobalt")}
          strokeDasharray="3 3"
        />
        <path d={line((p) => p.drawn)} fill="none" stroke={colour("ink")} strokeWidth={2} />
        <path
          d={line((p) => p.bitterness / bitterest)}
          fill="none"
          stroke={colour("stop")}
          strokeWidth={1.5}
          strokeDasharray="5 3"
        />
        <g fill={colour("muted")} style={{ fontSize: 12 }}>
          <text x={4} y={HEIGHT - 5}>
            0
          </text>
          <text x={w - 6} y={HEIGHT - 5} textAnchor="end">
            {span(longest)}
          </text>
          <text x={8} y={16}>
            — extracted
          </text>
          <text x={8} y={32}>
            - - bitter
          </text>
        </g>
      </svg>
    </div>
  );
}
