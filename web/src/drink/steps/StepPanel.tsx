import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import FormControlLabel from "@mui/material/FormControlLabel";
import MenuItem from "@mui/material/MenuItem";
import Switch from "@mui/material/Switch";
import TextField from "@mui/material/TextField";
import { useState } from "react";
import { answer, api, type Drink, type DrinkReport, type Step } from "../../api/client";
import { useIngredients } from "../../api/queries";
import { colour, displayFont } from "../../app/theme";
import { span } from "../../ui/format";
import { moveStep, removeStep, setNote, setPart } from "../changes";
import type { Editor } from "../editor";
import { type Field, actions, held, isStrainer, nameOf } from "./actions";

interface StepPanelProps {
  editor: Editor;
  drink: Drink;
  report: DrinkReport;
  step: Step;
  onClose: () => void;
}

/** One step, to be changed in place. */
export function StepPanel({ editor, drink, report, step, onClose }: StepPanelProps) {
  const [refused, setRefused] = useState<string | undefined>();
  const id = step.id ?? "";
  const { name, fields } = actions[nameOf(step.do)];
  const frame = report.frames.find((f) => f.step === id);
  const index = drink.steps.indexOf(step);

  /** Moves the step, unless something would then be done with an empty vessel. */
  const move = async (by: -1 | 1) => {
    const moved = moveStep(id, by)(drink);
    const tried = await answer(api.POST("/api/compute/trace", { body: moved })).catch(
      () => undefined,
    );
    const empty = (r: DrinkReport) =>
      r.frames.flatMap((f) => f.notices).filter((n) => n.kind === "nothing_there");
    const before = empty(report).map((n) => n.message);
    const why = tried && empty(tried).find((n) => !before.includes(n.message));
    if (!tried || why) return setRefused(why?.message ?? "That order can't be made.");
    setRefused(undefined);
    editor.edit(moveStep(id, by));
  };

  return (
    <Box
      role="region"
      aria-label={`Step ${index + 1}`}
      sx={{
        bgcolor: colour("enamel"),
        border: `2px solid ${colour("cobalt")}`,
        borderRadius: "14px",
        p: 2.25,
        my: { xs: 1, md: 0 },
        display: "grid",
        gap: 1.75,
        position: { md: "sticky" },
        top: { md: 12 },
      }}
    >
      <Box sx={{ display: "flex", alignItems: "center", justifyContent: "space-between" }}>
        <Box component="h2" sx={{ ...displayFont, fontSize: 20, fontWeight: 700, m: 0 }}>
          {index + 1}. {name}
        </Box>
        <Button onClick={onClose} sx={{ minWidth: 0, px: 1 }}>
          Close
        </Button>
      </Box>
      {fields.map((field) => (
        <FieldInput
          key={field.key}
          editor={editor}
          drink={drink}
          report={report}
          step={step}
          field={field}
        />
      ))}
      <TypedField
        label="How"
        value={step.note ?? ""}
        onType={(text) => editor.tryEdit(setNote(id, text))}
      />
      {frame && (
        <Box sx={{ fontSize: 14, color: colour("muted") }}>
          {span(frame.minutes)}
          {frame.hands_on_minutes < frame.minutes - 0.5 &&
            `, ${span(frame.hands_on_minutes)} of it work`}
          {frame.notices.map((notice) => (
            <Box key={notice.message} sx={{ color: colour("ink"), mt: 0.75 }}>
              {notice.message}
            </Box>
          ))}
        </Box>
      )}
      <Box sx={{ display: "flex", flexWrap: "wrap", gap: 1 }}>
        <Button variant="outlined" disabled={index === 0} onClick={() => void move(-1)}>
          Earlier
        </Button>
        <Button
          variant="outlined"
          disabled={index === drink.steps.length - 1}
          onClick={() => void move(1)}
        >
          Later
        </Button>
        <Box sx={{ flex: 1 }} />
        <Button
          onClick={() => {
            onClose();
            editor.edit(removeStep(id));
          }}
        >
          Leave out
        </Button>
      </Box>
      {refused && (
        <Box role="alert" sx={{ color: colour("stop"), fontSize: 14 }}>
          Not in that order. {refused}
        </Box>
      )}
    </Box>
  );
}

interface FieldInputProps {
  editor: Editor;
  drink: Drink;
  report: DrinkReport;
  step: Step;
  field: Field;
}

function FieldInput({ editor, drink, report, step, field }: FieldInputProps) {
  const { data: all = [] } = useIngredients();
  const id = step.id ?? "";
  const value = held(step.do)[field.key];
  const set = (part: unknown) => editor.tryEdit(setPart(id, { [field.key]: part }));
  const choose = (options: [string, string][]) => (
    <Choice label={field.label} value={String(value ?? "")} options={options} onChoose={set} />
  );
  const vessels = (fits: (v: Drink["vessels"][number]) => boolean) =>
    choose(
      drink.vessels
        .filter(fits)
        .map((v) => [v.id, report.vessels.find((r) => r.id === v.id)?.name ?? v.id]),
    );
  const named = (fits: (it: (typeof all)[number]) => boolean) =>
    choose(
      all
        .filter(fits)
        .map((it): [string, string] => [it.id, it.name])
        .sort((a, b) => a[1].localeCompare(b[1])),
    );
  switch (field.kind) {
    case "vessel":
      return vessels((v) => !isStrainer(v) && v.kind !== "glass");
    case "pot":
      return vessels((v) => v.kind === "pot");
    case "strainer":
      return vessels(isStrainer);
    case "glass":
      return vessels((v) => v.kind === "glass" || v.kind === "bottle");
    case "ingredient":
      return named(() => true);
    case "juice":
      return named((it) => it.can_be_squeezed);
    case "pourable":
      return named((it) => it.form === "liquid" || it.form === "ice");
    case "choice":
      return choose(Object.entries(field.options));
    case "amount":
      return <TypedField label={field.label} value={String(value)} onType={set} />;
    case "number":
      return (
        <TypedField
          label={field.unit ? `${field.label}, ${field.unit}` : field.label}
          value={String(value)}
          onType={async (text) => {
            const number = Number(text.replace(",", "."));
            const fits =
              text.trim() !== "" && Number.isFinite(number) && !(field.whole && number % 1);
            return fits ? set(number) : `“${text}” is no number.`;
          }}
        />
      );
    case "switch":
      return (
        <FormControlLabel
          label={field.label}
          control={
            <Switch checked={value === true} onChange={(event) => void set(event.target.checked)} />
          }
        />
      );
    case "portion":
      return <Portion value={value} onSet={set} />;
  }
}

function Choice(props: {
  label: string;
  value: string;
  options: [string, string][];
  onChoose: (value: string) => Promise<string | undefined>;
}) {
  const [wrong, setWrong] = useState<string | undefined>();
  return (
    <TextField
      select
      size="small"
      label={props.label}
      value={props.options.some(([id]) => id === props.value) ? props.value : ""}
      error={wrong !== undefined}
      helperText={wrong}
      onChange={async (event) => setWrong(await props.onChoose(event.target.value))}
    >
      {props.options.map(([id, name]) => (
        <MenuItem key={id} value={id}>
          {name}
        </MenuItem>
      ))}
    </TextField>
  );
}

/** Text that is taken over when the field is left or Enter is pressed, or says what is wrong. */
function TypedField(props: {
  label: string;
  value: string;
  onType: (text: string) => Promise<string | undefined>;
}) {
  const [typed, setTyped] = useState<string | undefined>();
  const [wrong, setWrong] = useState<string | undefined>();
  const commit = async () => {
    if (typed === undefined || typed.trim() === props.value) return setTyped(undefined);
    const problem = await props.onType(typed.trim());
    setWrong(problem);
    if (problem === undefined) setTyped(undefined);
  };
  return (
    <TextField
      size="small"
      label={props.label}
      value={typed ?? props.value}
      error={wrong !== undefined}
      helperText={wrong}
      onChange={(event) => {
        setTyped(event.target.value);
        setWrong(undefined);
      }}
      onBlur={() => void commit()}
      onKeyDown={(event) => event.key === "Enter" && void commit()}
    />
  );
}

/** All of it, a share, or a volume. */
function Portion({
  value,
  onSet,
}: {
  value: unknown;
  onSet: (part: unknown) => Promise<string | undefined>;
}) {
  const part = (value ?? "all") as "all" | { share: number } | { volume: string };
  const kind = part === "all" ? "all" : "share" in part ? "share" : "volume";
  const starts: Record<string, unknown> = {
    all: "all",
    share: { share: 0.5 },
    volume: { volume: "250 ml" },
  };
  return (
    <>
      <Choice
        label="How much"
        value={kind}
        options={[
          ["all", "all of it"],
          ["share", "a share of it"],
          ["volume", "a volume"],
        ]}
        onChoose={(next) => onSet(starts[next])}
      />
      {part !== "all" && "share" in part && (
        <TypedField
          label="Share, %"
          value={String(Math.round(part.share * 1000) / 10)}
          onType={async (text) => {
            const percent = Number(text.replace(",", "."));
            return Number.isFinite(percent)
              ? onSet({ share: percent / 100 })
              : `“${text}” is no number.`;
          }}
        />
      )}
      {part !== "all" && "volume" in part && (
        <TypedField label="Volume" value={part.volume} onType={(text) => onSet({ volume: text })} />
      )}
    </>
  );
}
