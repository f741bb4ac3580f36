import Box from "@mui/material/Box";
import { colour } from "../ui/theme";
import { VesselDrawing } from "../ui/vessel";

interface RowPictureProps {
  /** What stands under each glass, from the first to the last: how much of what varies. */
  shares: number[];
  /** "sour to sweet": the first and the last word stand at the ends. */
  words: string;
  liquid: string | undefined;
}

const GLASS = { width: 54, height: 74 };
const APART = 82;
const TALLEST = 46;

/** The row as it will stand on the table: glasses that look the same, and what differs in them drawn below. */
export function RowPicture({ shares, words, liquid }: RowPictureProps) {
  const most = Math.max(...shares, 1e-9);
  const width = shares.length * APART;
  const [low, high] = words.split(" to ");
  return (
    <Box
      component="svg"
      viewBox={`0 0 ${width} 178`}
      role="img"
      aria-label={`${shares.length} glasses that look the same: ${words}`}
      sx={{ display: "block", width: 1, maxWidth: width, mb: 2.5 }}
    >
      {shares.map((share, i) => {
        const height = (TALLEST * share) / most;
        return (
          <g key={i} transform={`translate(${(i + 0.5) * APART} 92)`}>
            <VesselDrawing
              kind="glass"
              {...GLASS}
              fill={0.62}
              liquid={liquid ?? colour("hairline")}
            />
            <rect
              x={-15}
              y={62 - height}
              width={30}
              height={height}
              rx={3}
              fill={colour("cobalt")}
              opacity={0.35 + (0.5 * share) / most}
            />
          </g>
        );
      })}
      <line x1={0} x2={width} y1={92.5} y2={92.5} stroke={colour("ink")} strokeWidth={2} />
      {high && (
        <g fontSize={14} fill={colour("muted")}>
          <text x={APART / 2} y={172} textAnchor="middle">
            {low}
          </text>
          <text x={width - APART / 2} y={172} textAnchor="middle">
            {high}
          </text>
        </g>
      )}
    </Box>
  );
}
