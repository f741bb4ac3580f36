import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { lazy, Suspense, useState } from "react";
import { Link, useParams } from "react-router";
import { colour, displayFont } from "../ui/theme";
import { Empty } from "../ui/Empty";
import { Trouble } from "../ui/Trouble";
import { Bottles } from "./Bottles";
import { OpenBottle } from "./OpenBottle";
import { useKept } from "./queries";
import { places } from "./words";
import { PageTitle } from "../ui/PageTitle";

const PutIn = lazy(() => import("./PutIn"));

const heading = { ...displayFont, fontSize: 21, fontWeight: 700, m: 0, mb: 0.5 } as const;

/** Everything that stands in the refrigerator, the freezer and the cupboard now. */
export default function Kept() {
  const { id } = useParams();
  const { data, error, refetch } = useKept();
  const [putting, setPutting] = useState(false);
  const all = data?.bottles ?? [];
  const over = all.filter((bottle) => bottle.state.over);
  const fine = all.filter((bottle) => !bottle.state.over);
  const to = (bottle: { id: string }) => (bottle.id === id ? "/kept" : `/kept/${bottle.id}`);
  return (
    <Box component="main" sx={{ px: { xs: 2, md: 3.5 }, pb: 8, flex: 1, minWidth: 0 }}>
      <Box sx={{ display: "flex", flexWrap: "wrap", alignItems: "baseline", gap: 2, mt: 0.5 }}>
        <PageTitle>Kept</PageTitle>
        <Box sx={{ color: colour("muted"), flex: 1 }}>
          {all.length > 0 && `${all.length} ${all.length === 1 ? "bottle" : "bottles"}`}
        </Box>
        {all.length > 0 && (
          <Button variant="outlined" component={Link} to="/kept/labels">
            Labels
          </Button>
        )}
        <Button variant="outlined" onClick={() => setPutting(true)}>
          Add a bottle
        </Button>
      </Box>
      <Trouble error={error ?? undefined} again={() => void refetch()} />
      {data && all.length === 0 && (
        <Empty
          action={
            <Button variant="contained" onClick={() => setPutting(true)}>
              Add a bottle you have
            </Button>
          }
        >
          No bottles yet. When you finish a batch, enter how many bottles it filled and where you
          keep them. Here you’ll see what is left and when to use it by.
        </Empty>
      )}
      <Box
        sx={{
          display: "grid",
          gridTemplateColumns: { xs: "1fr", md: id ? "1fr 400px" : "1fr" },
          columnGap: 5,
          alignItems: "start",
        }}
      >
        {/* What is open stands first where there is one column. */}
        {id && (
          <Box sx={{ order: { xs: 0, md: 1 }, mt: 3 }}>
            <OpenBottle key={id} id={id} />
          </Box>
        )}
        <Box sx={{ minWidth: 0 }}>
          {places.map(([place, name]) => {
            const here = fine.filter((bottle) => bottle.state.place === place);
            return (
              here.length > 0 && (
                <Box component="section" key={place} aria-label={name} sx={{ mt: 3 }}>
                  <Box component="h2" sx={heading}>
                    {name}
                  </Box>
                  <Bottles bottles={here} height={104} chosen={id} to={to} />
                </Box>
              )
            );
          })}
          {over.length > 0 && (
            <Box component="section" aria-label="Past its date: discard" sx={{ mt: 4 }}>
              <Box component="h2" sx={heading}>
                Past its date: discard
              </Box>
              <Bottles bottles={over} height={104} chosen={id} to={to} />
            </Box>
          )}
        </Box>
      </Box>
      {all.length > 0 && (
        <Box
          sx={{
            display: "grid",
            gridTemplateColumns: { xs: "1fr", md: "1fr 1fr" },
            gap: 1.75,
            mt: 4,
          }}
        >
          {[
            ...(data?.learned ?? []).map((line) => <span key={line}>{line}</span>),
            <span key="calendar">
              All use-by dates, with a reminder the day before:{" "}
              <a className="kp-finger" href="/api/kept/calendar.ics" download="kept.ics">
                Calendar file
              </a>
            </span>,
          ].map((line) => (
            <Box
              key={line.key}
              sx={{
                px: 2,
                py: 1.5,
                borderRadius: "12px",
                bgcolor: colour("enamel"),
                fontSize: 15,
                "& a": { color: colour("cobalt"), fontWeight: 600 },
              }}
            >
              {line}
            </Box>
          ))}
        </Box>
      )}
      <Suspense>{putting && <PutIn onClose={() => setPutting(false)} />}</Suspense>
    </Box>
  );
}
