import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Checkbox from "@mui/material/Checkbox";
import type { Plan, PlanAnswer, PlanFile } from "../api/client";
import { colour, displayFont } from "../ui/theme";
import { span } from "../ui/format";
import { dayAndHour, moved, type Clock } from "./times";
import { served } from "./changes";
import type { Edit } from "./planEditor";

interface AheadProps {
  answer: PlanAnswer;
  plan: Plan;
  clock: Clock;
  edit: Edit;
}

const card = { borderRadius: "12px", px: 2, py: 1.25, minWidth: 0 } as const;

/** What doesn't fit, and by how much later it would. */
export function Troubles({ answer, plan, clock, edit }: AheadProps) {
  const over = answer.now > 0;
  const missing = answer.drinks.filter((d) => d.missing);
  return (
    <>
      {missing.map((drink) => (
        <Told key={drink.id} stops>
          <strong>{drink.name || "A drink"}</strong>: {drink.missing}
        </Told>
      ))}
      {over && !plan.under_way && (
        <Told>
          Serving time was {span(Math.min(answer.now, 99 * 1440))} ago. Choose a later time to use
          this plan again.
        </Told>
      )}
      {!over && !plan.under_way && answer.now > plan.begins && (
        <Told
          stops
          action={
            plan.later_by != null && (
              <Button onClick={() => edit((p) => served(p, moved(p.serving, plan.later_by!)))}>
                Serve at {dayAndHour(clock, plan.later_by)}
              </Button>
            )
          }
        >
          This plan starts at {dayAndHour(clock, plan.begins)}, which is already past.{" "}
          {plan.later_by != null
            ? `If you start now, you can serve at ${dayAndHour(clock, plan.later_by)} at the earliest.`
            : "If you start now, you can't serve within two days."}
        </Told>
      )}
      {plan.troubles.map((trouble) => (
        <Told key={trouble.message} stops={trouble.stops}>
          {trouble.message}
        </Told>
      ))}
    </>
  );
}

function Told(props: { stops?: boolean; children: React.ReactNode; action?: React.ReactNode }) {
  return (
    <Box
      role={props.stops ? "alert" : "status"}
      sx={{
        ...card,
        display: "flex",
        flexWrap: "wrap",
        alignItems: "center",
        columnGap: 2,
        bgcolor: colour(props.stops ? "stopWash" : "notice"),
        color: colour(props.stops ? "ink" : "onNotice"),
      }}
    >
      <Box sx={{ flex: "1 1 300px" }}>{props.children}</Box>
      {props.action}
    </Box>
  );
}

interface PartsProps {
  answer: PlanAnswer;
  plan: Plan;
  /** The plan as it is kept: what is ticked shows at once. */
  file: PlanFile;
  edit: Edit;
}

/** How early each part may be made, and those that are made the evening before. */
export function Parts({ answer, plan, file, edit }: PartsProps) {
  if (plan.parts.length === 0) return null;
  const name = (position: number) => answer.drinks.find((d) => d.position === position)?.name ?? "";
  const toggle = (id: string) =>
    edit((p) => {
      const ahead = p.ahead ?? [];
      return {
        ...p,
        ahead: ahead.includes(id) ? ahead.filter((part) => part !== id) : [...ahead, id],
      };
    });
  return (
    <Box component="section" aria-label="Make ahead">
      <Box component="h2" sx={{ ...displayFont, fontSize: 17, fontWeight: 700, m: 0, mb: 0.5 }}>
        The evening before
      </Box>
      <Box component="ul" sx={{ listStyle: "none", m: 0, p: 0 }}>
        {plan.parts.map((part) => (
          <Box
            component="li"
            key={part.id}
            sx={{
              display: "flex",
              alignItems: "center",
              gap: 1.5,
              minHeight: 56,
              borderBottom: `1px solid ${colour("hairline")}`,
            }}
          >
            <Checkbox
              checked={(file.ahead ?? []).includes(part.id)}
              onChange={() => toggle(part.id)}
              slotProps={{
                input: { "aria-label": `${name(part.drink)} the evening before, ${part.label}` },
              }}
              sx={{ width: 44, height: 44, p: 0, ml: -1, flexShrink: 0 }}
            />
            <Box sx={{ minWidth: 0, py: 0.75 }}>
              <strong>{name(part.drink)}</strong>, {part.label}: {span(part.work_minutes)} hands-on
              <Box sx={{ fontSize: 14, color: colour("muted") }}>
                keeps {keeps(part.keeps_minutes)}. {part.why}
              </Box>
            </Box>
          </Box>
        ))}
      </Box>
    </Box>
  );
}

function keeps(minutes: number): string {
  const days = minutes / 1440;
  if (days >= 2) return `${Math.floor(days)} days`;
  if (days >= 1) return "a day";
  return span(minutes);
}
