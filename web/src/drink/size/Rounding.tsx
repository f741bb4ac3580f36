import type { Schemas } from "../../api/client";
import { colour } from "../../ui/theme";

const wide = 54;
const high = 48;
/** A just-noticeable difference, drawn. */
const step = 16;

/** The map close up: where rounding takes a drink, in the ring in which nobody tells the difference. */
export function Rounding({ shift }: { shift: Schemas["Spot"] }) {
  const within = Math.abs(shift.sweetness) <= 1 && Math.abs(shift.acidity) <= 1;
  const edge = (value: number, room: number) => Math.max(-room, Math.min(room, value));
  const x = wide / 2 + edge(shift.sweetness * step, wide / 2 - 4);
  const y = high / 2 - edge(shift.acidity * step, high / 2 - 4);
  const tone = colour(within ? "ink" : "stop");
  return (
    <svg
      width={wide}
      height={high}
      role="img"
      aria-label={
        within
          ? "Rounding makes no noticeable difference"
          : "Rounding makes a noticeable difference"
      }
      style={{ display: "block", flex: "none" }}
    >
      <rect
        x={wide / 2 - step}
        y={high / 2 - step}
        width={2 * step}
        height={2 * step}
        rx={10}
        fill={colour("wash")}
        stroke={colour("bandName")}
        strokeDasharray="3 3"
      />
      <path
        d={`M${wide / 2 - 4} ${high / 2}h8M${wide / 2} ${high / 2 - 4}v8`}
        stroke={colour("muted")}
      />
      <line x1={wide / 2} y1={high / 2} x2={x} y2={y} stroke={tone} strokeDasharray="2 2" />
      <circle cx={x} cy={y} r={3.5} fill={tone} />
    </svg>
  );
}
