import Box from "@mui/material/Box";
import TextField from "@mui/material/TextField";
import { useState } from "react";
import { Link } from "react-router";
import { usePlans, useShelf } from "../api/queries";
import { colour, displayFont } from "../ui/theme";
import { useKept } from "../kept/queries";
import { Bottles } from "../kept/Bottles";
import { Begin } from "../shelf/Begin";
import { Next } from "./Next";
import { Shelf } from "../shelf/Shelf";
import { dayAndTime } from "../ui/dates";
import { useSettled } from "../ui/useSettled";
import { FirstSteps } from "./FirstSteps";

const heading = { ...displayFont, fontSize: 22, fontWeight: 700, m: 0 } as const;

/** So many bottles to use soon are shown here. */
const SOON = 3;

/** What you need on opening the application: what is next, what must be used soon, the drinks, the plans. */
export function Today() {
  const [find, setFind] = useState("");
  const settled = useSettled(find, 150);
  const { data: all } = useShelf({ find: "" });
  const { data: kept } = useKept();
  const empty = all && all.total === 0;
  const soon = (kept?.bottles ?? []).filter((b) => b.state.soon).slice(0, SOON);
  const over = (kept?.bottles ?? []).filter((b) => b.state.over).slice(0, SOON);
  const due = soon.length + over.length > 0;
  if (empty && find === "") {
    return (
      <Box component="main" sx={{ px: { xs: 2, md: 3.5 }, pb: 10, flex: 1 }}>
        <Next />
        <FirstSteps />
      </Box>
    );
  }
  return (
    <Box component="main" sx={{ px: { xs: 2, md: 3.5 }, pb: 10, flex: 1 }}>
      <h1
        style={{
          position: "absolute",
          width: 1,
          height: 1,
          overflow: "hidden",
          clipPath: "inset(50%)",
        }}
      >
        Today
      </h1>
      <Box
        sx={{
          display: "grid",
          gridTemplateColumns: {
            xs: "minmax(0, 1fr)",
            md: due ? "minmax(0, 1fr) minmax(340px, 36%)" : "1fr",
          },
          columnGap: 5,
          alignItems: "start",
        }}
      >
        <Next />
        {due && (
          <Box sx={{ display: "grid", gridTemplateColumns: "minmax(0, 1fr)", rowGap: 3, mb: 3 }}>
            {soon.length > 0 && (
              <Box component="section" aria-label="Use soon">
                <Box component="h2" sx={heading}>
                  Use soon
                </Box>
                <Bottles bottles={soon} height={92} to={(bottle) => `/kept/${bottle.id}`} />
              </Box>
            )}
            {over.length > 0 && (
              <Box component="section" aria-label="Past its date: discard">
                <Box component="h2" sx={{ fontSize: 15.5, fontWeight: 700, m: 0 }}>
                  Past its date: discard
                </Box>
                {over.map((bottle) => (
                  <Box
                    key={bottle.id}
                    component={Link}
                    to={`/kept/${bottle.id}`}
                    sx={{
                      display: "flex",
                      flexWrap: "wrap",
                      alignItems: "center",
                      columnGap: 1,
                      minHeight: 44,
                      color: colour("ink"),
                      borderBottom: `1px solid ${colour("hairline")}`,
                      textDecoration: "none",
                    }}
                  >
                    <Box component="span" sx={{ flex: 1, minWidth: 0 }}>
                      {bottle.name}
                    </Box>
                    <Box component="span" sx={{ color: colour("stop"), fontWeight: 600 }}>
                      {bottle.due}
                    </Box>
                  </Box>
                ))}
              </Box>
            )}
          </Box>
        )}
      </Box>
      <Box component="section" aria-label="Drinks">
        <Box sx={{ display: "flex", flexWrap: "wrap", alignItems: "center", gap: 2, mb: 2 }}>
          <Box component="h2" sx={heading}>
            Drinks
          </Box>
          <TextField
            size="small"
            label="Find a drink"
            type="search"
            value={find}
            onChange={(event) => setFind(event.target.value)}
            sx={{ flex: { xs: "1 1 160px", sm: "0 1 240px" } }}
          />
          <Box sx={{ flex: 1 }} />
          <Begin />
        </Box>
        <Shelf sought={{ find: settled }} short />
      </Box>
      {find === "" && <Lines learned={kept?.learned ?? []} />}
    </Box>
  );
}

/** What is planned, and what the kitchen learned, a line each. */
function Lines({ learned }: { learned: string[] }) {
  const { data: plans } = usePlans("");
  const next = (plans?.plans ?? []).slice(0, 2);
  if (next.length + learned.length === 0) return null;
  const card = {
    display: "block",
    px: 2.25,
    py: 1.5,
    borderRadius: "12px",
    bgcolor: colour("enamel"),
    color: colour("ink"),
    textDecoration: "none",
  } as const;
  return (
    <Box
      sx={{
        display: "grid",
        gridTemplateColumns: { xs: "1fr", md: "1fr 1fr" },
        gap: 1.75,
        mt: 4,
      }}
    >
      {next.map((plan) => (
        <Box key={plan.id} component={Link} to={`/plan/${plan.id}`} sx={card}>
          <Box sx={{ ...displayFont, fontSize: 17, fontWeight: 700 }}>{plan.name}</Box>
          <Box sx={{ fontSize: 14.5, color: colour("muted") }}>
            {dayAndTime(new Date(plan.serving))} · {plan.drinks.map((d) => d.name).join(", ")}
          </Box>
        </Box>
      ))}
      {learned.map((line) => (
        <Box key={line} component={Link} to="/kept" sx={card}>
          <Box sx={{ fontSize: 14.5 }}>{line}</Box>
        </Box>
      ))}
    </Box>
  );
}
