import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { useAsked } from "../api/ask";
import { answer as answerOf, api, type Help, type Plan, type PlanFile } from "../api/client";
import { colour, displayFont } from "../ui/theme";
import { span } from "../ui/format";
import { helped } from "./changes";
import type { Edit } from "./planEditor";
import { dayAndHour, type Clock } from "./times";

interface HelpsProps {
  plan: Plan;
  /** The plan as it is kept. */
  file: PlanFile;
  clock: Clock;
  edit: Edit;
}

/** A task that a change moves. */
export interface Moved {
  id: string;
  label: string;
  from: number;
  to: number;
}

/** The tasks that start at another time in the plan with a change, the most moved first. */
export function movedTasks(now: Plan["tasks"], then: Plan["tasks"]): Moved[] {
  const before = new Map(now.map((task) => [task.id, task.hands_from]));
  return then
    .flatMap(({ id, label, hands_from: to }) => {
      const from = before.get(id);
      return from === undefined || Math.abs(from - to) < 1 ? [] : [{ id, label, from, to }];
    })
    .sort((a, b) => Math.abs(b.to - b.from) - Math.abs(a.to - a.from));
}

/** As many moved tasks are named. */
const NAMED = 4;

/** Which one change helps how much; touched, what it would move. */
export function Helps({ plan, file, clock, edit }: HelpsProps) {
  if (plan.helps.length === 0) return null;
  return (
    <Box component="section" aria-label="What would help">
      <Box component="h2" sx={{ ...displayFont, fontSize: 17, fontWeight: 700, m: 0, mb: 1 }}>
        What would help
      </Box>
      <Box sx={{ display: "flex", flexWrap: "wrap", gap: 1.5, alignItems: "flex-start" }}>
        {plan.helps.map((help) => (
          <OneHelp key={help.title} help={help} plan={plan} file={file} clock={clock} edit={edit} />
        ))}
      </Box>
    </Box>
  );
}

function OneHelp({ help, plan, file, clock, edit }: HelpsProps & { help: Help }) {
  const preview = useAsked<Plan, PlanFile>(file);
  const look = () =>
    preview.ask(async (signal, before) => {
      const body = { plan: helped(before, help.change), help: false };
      const found = await answerOf(api.POST("/api/compute/plan", { body, signal }));
      if (!found.plan) throw new Error("We couldn't work this plan out.");
      return found.plan;
    });
  const then = preview.found;
  const moved = then && movedTasks(plan.tasks, then.tasks);
  return (
    <Box
      sx={{
        borderRadius: "12px",
        px: 2,
        py: 1.25,
        minWidth: 0,
        maxWidth: 560,
        bgcolor: colour("enamel"),
      }}
    >
      <Box sx={{ display: "flex", alignItems: "center", gap: 2 }}>
        <Box sx={{ minWidth: 0 }}>
          <Box sx={{ fontWeight: 600 }}>{help.title}</Box>
          <Box sx={{ color: colour("muted"), fontSize: 14.5 }}>{help.message}</Box>
        </Box>
        {!(typeof help.change === "object" && "vessel" in help.change) && !then && (
          <Button
            variant="outlined"
            onClick={() => void look()}
            sx={{ whiteSpace: "nowrap", flexShrink: 0 }}
          >
            Show changes
          </Button>
        )}
      </Box>
      {preview.wrong && (
        <Box role="alert" sx={{ color: colour("stop"), fontSize: 14.5 }}>
          {preview.wrong}
        </Box>
      )}
      {then && moved && (
        <Box role="status" sx={{ mt: 1, display: "grid", gap: 0.5, fontSize: 15 }}>
          <Box>
            Start{" "}
            {Math.abs(then.begins - plan.begins) < 1 ? (
              <b>{dayAndHour(clock, then.begins)}, as now</b>
            ) : (
              <>
                <b>{dayAndHour(clock, then.begins)}</b> instead of {dayAndHour(clock, plan.begins)}
              </>
            )}
          </Box>
          {moved.slice(0, NAMED).map((task) => (
            <Box key={task.id} sx={{ color: colour("muted") }}>
              {task.label}: {dayAndHour(clock, task.to)}, {span(Math.abs(task.to - task.from))}{" "}
              {task.to > task.from ? "later" : "earlier"}
            </Box>
          ))}
          {moved.length > NAMED && (
            <Box sx={{ color: colour("muted") }}>and {moved.length - NAMED} more steps move</Box>
          )}
          <Box sx={{ display: "flex", gap: 1, mt: 0.5 }}>
            <Button variant="contained" onClick={() => edit((p) => helped(p, help.change))}>
              Make this change
            </Button>
            <Button onClick={preview.forget}>Leave it</Button>
          </Box>
        </Box>
      )}
    </Box>
  );
}
