import { colour } from "../ui/theme";
import { VesselDrawing } from "../ui/vessel";

/** What stands on the table to find one's balance: a sweet, a sour and a plain jug, and the glass they are mixed in. */
export function ThreeJugs({ named = false }: { named?: boolean }) {
  const jugs = [
    ["sweet", colour("plain"), 0.7],
    ["sour", colour("lemon"), 0.6],
    ["water", colour("plain"), 0.8],
  ] as const;
  const name = { textAnchor: "middle", fontSize: 13, fill: colour("muted") } as const;
  const told = named
    ? ({
        role: "img",
        "aria-label": "Three jugs: sweet, sour and water, and the glass for your mix",
      } as const)
    : { "aria-hidden": true };
  return (
    <svg
      viewBox={`0 0 320 ${named ? 122 : 104}`}
      style={{ width: "100%", maxHeight: named ? undefined : 112 }}
      {...told}
    >
      <path d="M0 96H320" stroke={colour("ink")} strokeWidth={2} />
      {jugs.map(([word, liquid, fill], i) => (
        <g key={word} transform={`translate(${40 + i * 84} 95)`}>
          <VesselDrawing kind="jug" width={46} height={80} fill={fill} liquid={liquid} />
          {named && (
            <text {...name} y={20}>
              {word}
            </text>
          )}
        </g>
      ))}
      <g transform="translate(288 95)">
        <VesselDrawing kind="glass" width={44} height={72} fill={0.5} liquid={colour("lemon")} />
        {named && (
          <text {...name} y={20}>
            your mix
          </text>
        )}
      </g>
    </svg>
  );
}
