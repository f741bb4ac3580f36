import Box from "@mui/material/Box";
import { useRef, type ReactNode } from "react";
import { Link } from "react-router";
import { useStartingPoints } from "../api/queries";
import { colour, displayFont } from "../ui/theme";
import { StartingPoints } from "../shelf/StartingPoints";
import { Standing } from "../shelf/Standing";
import { VesselDrawing } from "../ui/vessel";

const way = {
  display: "grid",
  gridTemplateRows: { xs: "auto 1fr", sm: "auto auto 1fr" },
  gridTemplateColumns: { xs: "84px 1fr", sm: "1fr" },
  columnGap: 2,
  textAlign: "left",
  font: "inherit",
  border: 0,
  cursor: "pointer",
  px: { xs: 2, sm: 2.5 },
  py: { xs: 1.5, sm: 2 },
  borderRadius: "14px",
  bgcolor: colour("enamel"),
  color: colour("ink"),
  textDecoration: "none",
  "&:hover h2, &:focus-visible h2": { color: colour("cobalt") },
} as const;

/** An empty shelf offers three ways in, and what could stand on it. */
export function FirstSteps() {
  const { data: starts = [] } = useStartingPoints();
  const below = useRef<HTMLDivElement>(null);
  const shown = starts.find(({ id }) => id === "lemonade");
  return (
    <>
      <Box
        component="h1"
        sx={{ ...displayFont, fontSize: { xs: 30, sm: 40 }, fontWeight: 700, m: 0, mt: 1 }}
      >
        Your shelf is empty
      </Box>
      <Box component="p" sx={{ m: 0, mb: 3, mt: 1, fontSize: 17, maxWidth: 680 }}>
        Enter your recipe in cups, spoons and pieces of fruit. You see at once how sweet and sour it
        is, how full each pot gets, and how to make it for a party.
      </Box>
      <Box
        sx={{
          display: "grid",
          gap: 2,
          gridTemplateColumns: { xs: "1fr", sm: "1fr 1fr 1fr" },
        }}
      >
        <Box
          component="button"
          sx={way}
          onClick={() => below.current?.scrollIntoView({ block: "start" })}
        >
          <Picture>{shown && <Standing of={shown.makes} width={150} height={110} />}</Picture>
          <Way title="A starting point">
            A tested recipe for each kind of drink and each method.
          </Way>
        </Box>
        <Box component={Link} to="/paste" sx={way}>
          <Picture>
            <Sheet />
          </Picture>
          <Way title="Paste a recipe">Copy it from anywhere. We mark what we had to guess.</Way>
        </Box>
        <Box component={Link} to="/tasting/find" sx={way}>
          <Picture>
            <ThreeJugs />
          </Picture>
          <Way title="Find my balance">Ten minutes, three jugs, one glass at a time.</Way>
        </Box>
      </Box>
      <Box ref={below} sx={{ mt: 4, scrollMarginTop: 16 }}>
        <StartingPoints />
      </Box>
    </>
  );
}

function Picture({ children }: { children: ReactNode }) {
  return (
    <Box
      aria-hidden
      sx={{
        height: { xs: 84, sm: 118 },
        gridRow: { xs: "1 / 3", sm: "auto" },
        overflow: "hidden",
        display: "flex",
        alignItems: "flex-end",
        justifyContent: "center",
        borderBottom: `2px solid ${colour("ink")}`,
        mb: { xs: 0, sm: 1.5 },
        "& svg": { maxWidth: "100%", maxHeight: "100%" },
      }}
    >
      {children}
    </Box>
  );
}

function Way({ title, children }: { title: string; children: ReactNode }) {
  return (
    <>
      <Box
        component="h2"
        sx={{ ...displayFont, fontSize: 21, fontWeight: 700, m: 0, alignSelf: "end" }}
      >
        {title}
      </Box>
      <Box sx={{ fontSize: 15, color: colour("muted") }}>{children}</Box>
    </>
  );
}

/** A sheet of paper with lines, some of them marked as they are when a recipe was read. */
function Sheet() {
  const lines: [number, "wash" | "notice" | undefined][] = [
    [54, undefined],
    [70, "wash"],
    [46, "notice"],
    [62, "wash"],
    [76, "wash"],
    [38, undefined],
  ];
  return (
    <svg width={120} height={112} viewBox="0 0 120 112">
      <path
        d="M14 112V8h74l18 18v86z"
        fill={colour("ground")}
        stroke={colour("ink")}
        strokeWidth={2}
      />
      <path d="M88 8v18h18" fill="none" stroke={colour("ink")} strokeWidth={2} />
      {lines.map(([width, mark], i) => (
        <g key={i}>
          {mark && (
            <rect x={22} y={23 + i * 14} width={width + 6} height={11} fill={colour(mark)} />
          )}
          <path
            d={`M25 ${29 + i * 14}h${width}`}
            stroke={colour("ink")}
            strokeWidth={2}
            strokeLinecap="round"
          />
        </g>
      ))}
    </svg>
  );
}

function ThreeJugs() {
  const fills: [string, number][] = [
    [colour("lemon"), 0.8],
    [colour("plain"), 0.7],
    [colour("rose"), 0.75],
  ];
  return (
    <svg width={210} height={100} viewBox="0 0 210 100">
      {fills.map(([liquid, fill], i) => (
        <g key={liquid} transform={`translate(${38 + i * 66} 100)`}>
          <VesselDrawing kind="jug" width={40} height={68} fill={fill} liquid={liquid} />
        </g>
      ))}
    </svg>
  );
}
