import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import { useState } from "react";
import { Link } from "react-router";
import type { Plan, PlanAnswer, PlanFile, PlannedTask } from "../api/client";
import { colour, displayFont } from "../ui/theme";
import { span } from "../ui/format";
import { civil, dayAndHour, hour, movedBy, type Clock } from "./times";
import { useFocusBack } from "../ui/useFocusBack";
import type { Edit } from "./planEditor";

interface ChosenProps {
  answer: PlanAnswer;
  plan: Plan;
  clock: Clock;
  /** The plan as it is kept. */
  file: PlanFile;
  /** A task of the block. */
  task: string;
  edit: Edit;
  /** Another task of the block is looked at: the panel stays with it when the blocks change. */
  onTask: (task: string) => void;
  onClose: () => void;
}

/** What is done in a block: when, what waits afterwards and how long it may, and what can be changed. */
export function Chosen({ answer, plan, file, clock, task, edit, onTask, onClose }: ChosenProps) {
  const panel = useFocusBack();
  const block = plan.blocks.find((b) => b.tasks.includes(task));
  if (!block) return null;
  const drink = answer.drinks.find((d) => d.position === block.drink);
  const tasks = plan.tasks.filter((t) => block.tasks.includes(t.id));
  return (
    <Box
      component="section"
      ref={panel}
      aria-label={`${drink?.name}: ${block.label}`}
      sx={{ bgcolor: colour("enamel"), borderRadius: "12px", p: { xs: 1.75, sm: 2.25 } }}
    >
      <Box sx={{ display: "flex", flexWrap: "wrap", alignItems: "baseline", gap: 1.5 }}>
        <Box component="h2" sx={{ ...displayFont, fontSize: 20, fontWeight: 700, m: 0 }}>
          {dayAndHour(clock, block.from)} to {hour(clock, block.to)}
        </Box>
        <Box sx={{ fontWeight: 600 }}>{drink?.name}</Box>
        {plan.cooks.length > 1 && <Box sx={{ color: colour("muted") }}>cook {block.cook + 1}</Box>}
        <Box sx={{ flex: 1 }} />
        {drink && (
          <>
            <Button component={Link} to={`/drinks/${drink.drink}/steps`}>
              Open the steps
            </Button>
            <Button component={Link} to={`/drinks/${drink.drink}/make`}>
              Make it
            </Button>
          </>
        )}
        <Button onClick={onClose}>Close</Button>
      </Box>
      <Box component="ol" sx={{ listStyle: "none", m: 0, p: 0 }}>
        {tasks.map((it) => (
          <TaskLine
            key={it.id}
            task={it}
            plan={plan}
            file={file}
            clock={clock}
            answer={answer}
            edit={edit}
            onTask={onTask}
          />
        ))}
      </Box>
    </Box>
  );
}

interface WhenProps {
  task: PlannedTask;
  plan: Plan;
  file: PlanFile;
  clock: Clock;
  answer: PlanAnswer;
  edit: Edit;
}

type TaskLineProps = WhenProps & Pick<ChosenProps, "onTask">;

function TaskLine({ task, plan, file, clock, answer, edit, onTask }: TaskLineProps) {
  const [open, setOpen] = useState(false);
  const waits = task.to - task.hands_to;
  const until = task.may_stand_until;
  const why = task.why ? `: ${task.why.charAt(0).toLowerCase()}${task.why.slice(1)}` : ".";
  const stands =
    until != null && until - task.to < 14 * 1440 && task.to > task.from
      ? `next by ${dayAndHour(clock, until)}${why}`
      : "";
  const told = [
    waits >= 1 && `then ${span(waits)} unattended, until ${hour(clock, task.to)}`,
    stands,
  ].filter(Boolean);
  return (
    <Box
      component="li"
      sx={{
        display: "grid",
        gridTemplateColumns: "52px minmax(0, 1fr) auto",
        columnGap: 1.5,
        py: 1,
        borderTop: `1px solid ${colour("hairline")}`,
        alignItems: "start",
      }}
    >
      <Box sx={{ fontWeight: 600, pt: 1.25 }}>{hour(clock, task.hands_from)}</Box>
      <Box sx={{ pt: 1.25, minWidth: 0 }}>
        {task.sentence}
        {told.length > 0 && (
          <Box sx={{ fontSize: 13.5, color: colour("muted") }}>{told.join("; ")}</Box>
        )}
        {task.state !== "ahead" && (
          <Box sx={{ fontSize: 13.5, fontWeight: 600 }}>
            {task.state === "done" ? "done" : "in progress"}
          </Box>
        )}
        {task.moved != null && (
          <Box sx={{ fontSize: 13.5, fontWeight: 600 }}>{movedBy(task.moved)}</Box>
        )}
        {task.held && <Box sx={{ fontSize: 13.5, fontWeight: 600 }}>pinned to this time</Box>}
        {open && (
          <When task={task} plan={plan} file={file} clock={clock} answer={answer} edit={edit} />
        )}
      </Box>
      <Button
        disabled={task.state !== "ahead"}
        onClick={() => {
          onTask(task.id);
          setOpen(!open);
        }}
        aria-expanded={open}
        aria-label={`When: ${task.sentence}`}
        sx={{ px: 1, minWidth: 0, fontSize: 14 }}
      >
        {open ? "Less" : "When"}
      </Button>
    </Box>
  );
}

/** Holds a task to a time, or puts it after another one. */
function When({ task, plan, file, clock, answer, edit }: WhenProps) {
  const names = new Map(answer.drinks.map((d) => [d.position, d.name]));
  const others = plan.tasks.filter((t) => t.id !== task.id && t.hands_to > t.hands_from);
  const hold = (at: string | undefined) =>
    edit((p) => {
      const rest = (p.holds ?? []).filter((h) => h.task !== task.id);
      return { ...p, holds: at ? [...rest, { task: task.id, at }] : rest };
    });
  const after = (other: string) =>
    edit((p) => {
      const rest = (p.after ?? []).filter((a) => a.task !== task.id);
      return { ...p, after: other ? [...rest, { task: task.id, after: other }] : rest };
    });
  return (
    <Box sx={{ display: "flex", flexWrap: "wrap", gap: 1, mt: 1.25 }}>
      <TextField
        size="small"
        type="datetime-local"
        label="Pinned to"
        key={task.hands_from}
        defaultValue={civil(clock, task.hands_from)}
        onBlur={(event) => {
          const at = event.target.value;
          if (at && at !== civil(clock, task.hands_from)) hold(at);
        }}
        onKeyDown={(event) => event.key === "Enter" && (event.target as HTMLElement).blur()}
      />
      {task.held ? (
        <Button onClick={() => hold(undefined)}>Unpin</Button>
      ) : (
        <Button onClick={() => hold(civil(clock, task.hands_from))}>Pin to this time</Button>
      )}
      <AfterField
        task={task}
        chosen={file.after?.find((a) => a.task === task.id)?.after}
        others={others}
        names={names}
        clock={clock}
        onChoose={after}
      />
    </Box>
  );
}

interface AfterFieldProps {
  task: PlannedTask;
  chosen: string | undefined;
  others: PlannedTask[];
  names: Map<number | null | undefined, string>;
  clock: Clock;
  onChoose: (other: string) => void;
}

function AfterField({ task, chosen, others, names, clock, onChoose }: AfterFieldProps) {
  const known = others.some((other) => other.id === chosen);
  return (
    <TextField
      select
      size="small"
      label="Only after"
      value={known ? chosen : ""}
      onChange={(event) => onChoose(event.target.value)}
      sx={{ minWidth: 180, maxWidth: "100%" }}
      slotProps={{ htmlInput: { "aria-label": `Only after, for ${task.label}` } }}
    >
      <MenuItem value="">whatever comes before it anyway</MenuItem>
      {others.map((other) => (
        <MenuItem key={other.id} value={other.id}>
          {hour(clock, other.hands_from)} {names.get(other.drink)}: {other.label}
        </MenuItem>
      ))}
    </TextField>
  );
}
