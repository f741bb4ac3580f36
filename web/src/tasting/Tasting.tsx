import Box from "@mui/material/Box";
import { Link } from "react-router";
import type { VesselKind } from "../api/client";
import { colour, displayFont } from "../ui/theme";
import { when } from "../ui/format";
import { Trouble } from "../ui/Trouble";
import { VesselDrawing } from "../ui/vessel";
import { type TastingEntry, useTasters, useTastings } from "./queries";
import { Part, Room, Title } from "./Table";
import { TasterList } from "./Tasters";
import { ThreeJugs } from "./ThreeJugs";
import { howFar, kinds, namesOf } from "./words";

/** The ways to taste, each with what it is good for. */
const LEMON = colour("lemon");
const HIBISCUS = colour("rose");
const WATER = colour("plain");

interface Way {
  to: string;
  name: string;
  what: string;
  /** What stands on the worktop then. */
  picture: { kind: VesselKind; fill: number; liquid: string }[];
}

const glass = (fill: number, liquid = LEMON) => ({ kind: "glass" as const, fill, liquid });

const ways: Way[] = [
  {
    to: "row",
    name: "A row of glasses",
    what: "One drink, three to seven glasses that differ in one thing.",
    picture: Array.from({ length: 5 }, () => glass(0.6)),
  },
  {
    to: "pitcher",
    name: "One pitcher for all",
    what: "What suits a group best, and what each person stirs into their glass.",
    picture: [{ kind: "pitcher", fill: 0.7, liquid: LEMON }, glass(0.6), glass(0.6)],
  },
  {
    to: "compare",
    name: "Compare two",
    what: "Find out whether two drinks really taste different.",
    picture: [glass(0.6), glass(0.6), glass(0.6)],
  },
  {
    to: "match",
    name: "Match a drink",
    what: "Measure a drink you like and get closer to it in rounds.",
    picture: [{ kind: "bottle", fill: 0.8, liquid: HIBISCUS }, glass(0.6, HIBISCUS)],
  },
  {
    to: "train",
    name: "Train your taste",
    what: "Find your smallest noticeable difference, guess figures, sort glasses.",
    picture: [glass(0.6, WATER), glass(0.6, WATER)],
  },
];

/** Vessels side by side, small. */
function Standing({ picture }: { picture: Way["picture"] }) {
  const size = { glass: [15, 25], pitcher: [24, 38], bottle: [15, 40] } as Record<string, number[]>;
  const each = 25;
  return (
    <svg
      width={picture.length * each + 12}
      height={46}
      aria-hidden
      style={{ flexShrink: 0, maxWidth: "40%" }}
    >
      {picture.map((one, i) => {
        const [w, h] = size[one.kind] ?? [15, 25];
        return (
          <g
            key={i}
            transform={`translate(${14 + i * each + (i > 0 && picture[0]!.kind !== "glass" ? 6 : 0)} 44)`}
          >
            <VesselDrawing
              kind={one.kind}
              width={w!}
              height={h!}
              fill={one.fill}
              liquid={one.liquid}
            />
          </g>
        );
      })}
    </svg>
  );
}

/** The place where glasses are poured side by side. */
export default function Tasting() {
  const { data: tasters, error, refetch } = useTasters();
  const { data: tastings } = useTastings();
  const going = tastings?.filter((t) => t.stage !== "over") ?? [];
  const over = tastings?.filter((t) => t.stage === "over") ?? [];
  return (
    <Room>
      <Title>Tasting</Title>
      <Trouble error={error ?? undefined} again={() => void refetch()} />
      <Box
        sx={{
          display: "grid",
          gap: 1.5,
          mb: 3.5,
          gridTemplateColumns: { xs: "1fr", md: "minmax(300px, 400px) 1fr" },
        }}
      >
        <Box
          component={Link}
          to="/tasting/find"
          sx={{
            display: "flex",
            flexDirection: "column",
            justifyContent: "space-between",
            gap: 1,
            p: 2.5,
            borderRadius: "18px",
            bgcolor: colour("wash"),
            color: colour("ink"),
            textDecoration: "none",
            border: `2px solid ${colour("cobalt")}`,
          }}
        >
          <Box>
            <Box sx={{ ...displayFont, fontSize: 26, fontWeight: 700, letterSpacing: "-0.02em" }}>
              Find my balance
            </Box>
            <Box sx={{ fontSize: 16, mt: 0.5 }}>
              Ten minutes, three jugs, one glass at a time: find the balance of sugar to acid you
              like.
            </Box>
          </Box>
          <ThreeJugs />
        </Box>
        <Box
          component="ul"
          sx={{
            listStyle: "none",
            m: 0,
            p: 0,
            display: "grid",
            gap: 1,
            gridTemplateColumns: { xs: "1fr", sm: "1fr 1fr" },
          }}
        >
          {ways.map(({ to, name, what, picture }) => (
            <li key={to}>
              <Box
                component={Link}
                to={`/tasting/new/${to}`}
                sx={{
                  display: "flex",
                  alignItems: "flex-end",
                  justifyContent: "space-between",
                  gap: 1.5,
                  height: "100%",
                  px: 2,
                  py: 1.5,
                  borderRadius: "12px",
                  bgcolor: colour("enamel"),
                  color: colour("ink"),
                  textDecoration: "none",
                }}
              >
                <Box sx={{ alignSelf: "flex-start", minWidth: 0 }}>
                  <Box
                    sx={{ ...displayFont, fontSize: 18, fontWeight: 700, color: colour("cobalt") }}
                  >
                    {name}
                  </Box>
                  <Box sx={{ color: colour("muted"), fontSize: 14.5, mt: 0.25 }}>{what}</Box>
                </Box>
                <Standing picture={picture} />
              </Box>
            </li>
          ))}
        </Box>
      </Box>
      {going.length > 0 && (
        <Part name="In progress">
          <Entries entries={going} />
        </Part>
      )}
      <Part name="Tasters">
        <TasterList tasters={tasters ?? []} />
      </Part>
      {over.length > 0 && (
        <Part name="Over">
          <Entries entries={over} />
        </Part>
      )}
    </Room>
  );
}

function Entries({ entries }: { entries: TastingEntry[] }) {
  const { data: tasters } = useTasters();
  const names = (entry: TastingEntry) =>
    namesOf(
      entry.tasters.flatMap((id) => tasters?.find((view) => view.id === id)?.taster.name ?? []),
    );
  return (
    <Box component="ul" sx={{ listStyle: "none", m: 0, p: 0 }}>
      {entries.map((entry) => (
        <Box
          component="li"
          key={entry.id}
          sx={{
            borderTop: `1px solid ${colour("hairline")}`,
            "&:last-child": { borderBottom: `1px solid ${colour("hairline")}` },
          }}
        >
          <Box
            component={Link}
            to={`/tasting/${entry.id}`}
            sx={{
              display: "flex",
              flexWrap: "wrap",
              columnGap: 2,
              rowGap: 0.25,
              alignItems: "baseline",
              py: 1.5,
              minHeight: 48,
              color: colour("ink"),
              textDecoration: "none",
            }}
          >
            <Box sx={{ fontWeight: 600, fontSize: 17, minWidth: 0, overflowWrap: "anywhere" }}>
              {entry.name}
            </Box>
            <Box sx={{ color: colour("muted") }}>
              {kinds[entry.what] ?? ""}, {howFar(entry)}, {names(entry)}
            </Box>
            <Box sx={{ flex: 1 }} />
            <Box sx={{ color: colour("muted"), fontSize: 14 }}>{when(entry.begun_at)}</Box>
            {entry.tells && <Box sx={{ flexBasis: "100%" }}>{entry.tells}</Box>}
          </Box>
        </Box>
      ))}
    </Box>
  );
}
