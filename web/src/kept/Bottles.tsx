import Box from "@mui/material/Box";
import { Link } from "react-router";
import type { KeptBottle } from "../api/client";
import { colour, displayFont } from "../ui/theme";
import { volume } from "../ui/format";
import { VesselDrawing } from "../ui/vessel";
import { planks } from "../ui/planks";

interface BottlesProps {
  bottles: KeptBottle[];
  height: number;
  /** The one that is open beside the shelf. */
  chosen?: string | undefined;
  to: (bottle: KeptBottle) => string;
}

/** Bottles and jugs on a plank, with their level, colour and days. */
export function Bottles({ bottles, height, chosen, to }: BottlesProps) {
  return (
    <Box component="ul" sx={planks({ narrowest: "min(132px, 42vw)", rowGap: 2.5 })}>
      {bottles.map((bottle) => {
        const jug = bottle.vessel !== "bottle";
        const here = bottle.id === chosen;
        return (
          <Box component="li" key={bottle.id} sx={{ minWidth: 0 }}>
            <Box
              component={Link}
              to={to(bottle)}
              aria-current={here ? "true" : undefined}
              sx={{
                display: "block",
                color: colour("ink"),
                textDecoration: "none",
                borderRadius: "8px",
                "&:hover .name, &:focus-visible .name": { color: colour("cobalt") },
              }}
            >
              <svg
                viewBox={`0 0 120 ${height + 6}`}
                height={height + 6}
                width={120}
                aria-hidden
                style={{ display: "block" }}
              >
                <g transform={`translate(${jug ? 44 : 36} ${height + 6})`}>
                  <VesselDrawing
                    kind={bottle.vessel}
                    width={jug ? height * 0.66 : height * 0.4}
                    height={jug ? height * 0.78 : height}
                    fill={bottle.state.fill}
                    liquid={bottle.colour}
                    ice={bottle.state.place === "freezer"}
                  />
                </g>
              </svg>
              <Box
                className="plank"
                sx={{ position: "relative", borderTop: `2px solid ${colour("ink")}`, mb: 1 }}
              />
              <Box
                sx={{
                  width: "fit-content",
                  maxWidth: "calc(100% - 18px)",
                  borderRadius: "4px",
                  ...(here && {
                    boxShadow: `0 0 0 6px ${colour("ground")}, 0 0 0 8px ${colour("cobalt")}`,
                  }),
                }}
              >
                <Box
                  className="name"
                  sx={{
                    ...displayFont,
                    fontSize: 15.5,
                    fontWeight: 700,
                    lineHeight: 1.2,
                    overflowWrap: "anywhere",
                  }}
                >
                  {bottle.name}
                </Box>
                <Box
                  sx={{
                    fontSize: 13.5,
                    fontWeight: bottle.state.soon || bottle.state.over ? 600 : 400,
                    color: colour(bottle.state.soon || bottle.state.over ? "stop" : "muted"),
                  }}
                >
                  {bottle.due}
                </Box>
                <Box sx={{ fontSize: 13.5, color: colour("muted") }}>
                  {volume(bottle.state.ml)}
                  {bottle.state.opened != null && bottle.state.place !== "freezer" && " · opened"}
                </Box>
              </Box>
            </Box>
          </Box>
        );
      })}
    </Box>
  );
}
