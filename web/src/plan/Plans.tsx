import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Menu from "@mui/material/Menu";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import { Ellipsis } from "lucide-react";
import { useState } from "react";
import { Link, useNavigate } from "react-router";
import type { PlanEntry } from "../api/client";
import { usePlanActions, usePlans } from "../api/queries";
import { colour, displayFont } from "../ui/theme";
import { Empty } from "../ui/Empty";
import { Note } from "../ui/Note";
import { comingSaturday } from "./times";
import { dayAndTime } from "../ui/dates";
import { PageTitle } from "../ui/PageTitle";

/** "Saturday 22 June, 15:00", as the clock on the wall will show. */
function servingDay(civil: string): string {
  const at = new Date(`${civil.slice(0, 16)}:00Z`);
  return Number.isNaN(at.getTime()) ? civil : dayAndTime(at, "UTC");
}

/** All plans: those to come first. */
export default function Plans() {
  const [find, setFind] = useState("");
  const [gone, setGone] = useState<PlanEntry | undefined>();
  const { data, error } = usePlans(find);
  const { create, copy, remove, restore } = usePlanActions();
  const go = useNavigate();
  const begin = () =>
    create.mutate(
      {
        name: "New plan",
        serving: comingSaturday(),
        drinks: [],
        night: { from: "22:00", to: "07:00" },
      },
      { onSuccess: (made) => void go(`/plan/${made.id}`) },
    );
  const [today] = useState(() => Date.now());
  const coming = (plan: PlanEntry) => Date.parse(plan.serving_at) >= today;
  const plans = data?.plans ?? [];
  const groups: [string, PlanEntry[]][] = [
    ["To come", plans.filter(coming).sort((a, b) => a.serving_at.localeCompare(b.serving_at))],
    [
      "Past",
      plans.filter((p) => !coming(p)).sort((a, b) => b.serving_at.localeCompare(a.serving_at)),
    ],
  ];
  const wrong = error ?? create.error ?? copy.error ?? remove.error;
  return (
    <Box component="main" sx={{ px: { xs: 2, md: 3.5 }, pb: 8, flex: 1, minWidth: 0 }}>
      <Box
        sx={{ display: "flex", flexWrap: "wrap", alignItems: "center", gap: 2, mb: 2.5, mt: 0.5 }}
      >
        <PageTitle>Plans</PageTitle>
        {(find || plans.length > 0) && (
          <TextField
            size="small"
            label="Find a plan"
            type="search"
            value={find}
            onChange={(event) => setFind(event.target.value)}
            sx={{ flex: { xs: "1 1 100%", sm: "0 1 300px" }, order: { xs: 3, sm: 0 } }}
          />
        )}
        <Box sx={{ flex: 1 }} />
        <Button variant="contained" onClick={begin} disabled={create.isPending}>
          New plan
        </Button>
      </Box>
      {wrong && (
        <Box sx={{ mx: { xs: -2, md: -3.5 } }}>
          <Note kind="stop">{wrong.message}</Note>
        </Box>
      )}
      {gone && (
        <Box sx={{ mx: { xs: -2, md: -3.5 } }}>
          <Note
            kind="notice"
            action={
              <Button
                onClick={() => restore.mutate(gone.id, { onSuccess: () => setGone(undefined) })}
              >
                Undo
              </Button>
            }
          >
            {gone.name} was deleted.
          </Note>
        </Box>
      )}
      {data && plans.length === 0 && (
        <Empty
          action={
            !find && (
              <Button variant="contained" onClick={begin} disabled={create.isPending}>
                Plan a serving
              </Button>
            )
          }
        >
          {find
            ? `No plan is called “${find}”.`
            : "No plans yet. Choose drinks and a serving time to see when to start: " +
              "who does what, what waits, and what you can make the evening before."}
        </Empty>
      )}
      {groups.map(
        ([title, list]) =>
          list.length > 0 && (
            <Box component="section" key={title} aria-label={title} sx={{ mb: 3 }}>
              <Box component="h2" sx={{ ...displayFont, fontSize: 20, fontWeight: 700, m: 0 }}>
                {title}
              </Box>
              <Box component="ul" sx={{ listStyle: "none", m: 0, p: 0 }}>
                {list.map((plan) => (
                  <Row
                    key={plan.id}
                    plan={plan}
                    onCopy={() =>
                      copy.mutate(plan.id, { onSuccess: (made) => void go(`/plan/${made.id}`) })
                    }
                    onRemove={() => remove.mutate(plan.id, { onSuccess: () => setGone(plan) })}
                  />
                ))}
              </Box>
            </Box>
          ),
      )}
      {data && data.total > plans.length && (
        <Box sx={{ color: colour("muted") }}>
          {data.total - plans.length} more. Type part of a name to find them.
        </Box>
      )}
    </Box>
  );
}

function Row(props: { plan: PlanEntry; onCopy: () => void; onRemove: () => void }) {
  const { plan } = props;
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const choose = (act: () => void) => () => {
    setAnchor(null);
    act();
  };
  return (
    <Box
      component="li"
      sx={{
        display: "flex",
        alignItems: "center",
        gap: 1,
        borderBottom: `1px solid ${colour("hairline")}`,
      }}
    >
      <Box
        component={Link}
        to={`/plan/${plan.id}`}
        sx={{
          flex: 1,
          minWidth: 0,
          py: 1.5,
          color: colour("ink"),
          textDecoration: "none",
          "&:hover strong, &:focus-visible strong": { color: colour("cobalt") },
        }}
      >
        <Box
          component="strong"
          sx={{ ...displayFont, fontSize: 19, fontWeight: 700, overflowWrap: "anywhere" }}
        >
          {plan.name}
        </Box>
        <Box sx={{ color: colour("muted") }}>{plan.damaged ?? servingDay(plan.serving)}</Box>
        <Box sx={{ display: "flex", flexWrap: "wrap", columnGap: 2, rowGap: 0.25, mt: 0.5 }}>
          {plan.drinks.map((drink, i) => (
            <Box
              key={i}
              sx={{ display: "inline-flex", alignItems: "center", gap: 0.75, fontSize: 14 }}
            >
              <Box
                component="span"
                aria-hidden
                sx={{
                  width: 13,
                  height: 13,
                  borderRadius: "3px 3px 5px 5px",
                  border: `1.5px solid ${colour("ink")}`,
                  bgcolor: drink.colour ?? "transparent",
                }}
              />
              {drink.name || "a deleted drink"}
            </Box>
          ))}
          {plan.drinks.length === 0 && !plan.damaged && (
            <Box sx={{ fontSize: 14 }}>no drinks in it yet</Box>
          )}
        </Box>
      </Box>
      <Button
        aria-label={`More for ${plan.name}`}
        aria-haspopup="menu"
        onClick={(event) => setAnchor(event.currentTarget)}
        sx={{ minWidth: 44, minHeight: 44, p: 0, color: colour("muted") }}
      >
        <Ellipsis size={20} aria-hidden />
      </Button>
      <Menu anchorEl={anchor} open={anchor !== null} onClose={() => setAnchor(null)}>
        <MenuItem onClick={choose(props.onCopy)}>Make a copy</MenuItem>
        <MenuItem onClick={choose(props.onRemove)}>Delete</MenuItem>
      </Menu>
    </Box>
  );
}
