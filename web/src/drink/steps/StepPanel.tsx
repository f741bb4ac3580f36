import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import FormControlLabel from "@mui/material/FormControlLabel";
import MenuItem from "@mui/material/MenuItem";
import Switch from "@mui/material/Switch";
import TextField from "@mui/material/TextField";
import { useState } from "react";
import type { Drink, DrinkReport, Step } from "../../api/client";
import { useIngredients } from "../../api/queries";
import { colour, displayFont } from "../../ui/theme";
import { degrees, depth, span, temperatureParts, weight } from "../../ui/format";
import { copyStep, removeStep, setNote, setPart, setTiming } from "../editing/changes";
import type { Editor } from "../editing/editor";
import { type Field, actions, held, isStrainer, nameOf } from "../editing/actions";
import { MeasuredVolume } from "./MeasuredVolume";
import { reorder, tryOrder } from "./order";
import { Steeping } from "./Steeping";
import { kindOf, numberIn, readAs } from "../../ui/reading";

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

  const move = async (by: -1 | 1) => {
    const why = await reorder(editor, drink, report, id, index + by);
    setRefused(why && `These steps can't be in that order. ${why}`);
  };
  const draws =
    "infuse" in step.do || "boil" in step.do || "heat" in step.do || "macerate" in step.do;
  const teaches = "strain" in step.do || "boil" in step.do || "heat" in step.do;

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
        label="Note"
        value={step.note ?? ""}
        onType={(text) => editor.tryEdit(setNote(id, text))}
      />
      <Timing editor={editor} drink={drink} report={report} step={step} />
      {frame && <Facts frame={frame} />}
      {draws && <Steeping drink={drink} step={id} />}
      {teaches && <MeasuredVolume key={id} drink={drink} step={id} />}
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
        <Button
          variant="outlined"
          onClick={() => {
            const copied = tryOrder(editor, drink, report, copyStep(id));
            void copied.then((why) => setRefused(why));
          }}
        >
          Copy
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
          {refused}
        </Box>
      )}
    </Box>
  );
}

/** How long what it leaves may stand, and what comes before it; both are worked out if nothing is said. */
function Timing({ editor, drink, report, step }: Omit<StepPanelProps, "onClose">) {
  const [open, setOpen] = useState(step.may_stand != null || (step.after ?? []).length > 0);
  const id = step.id ?? "";
  if (!open) {
    return (
      <Button onClick={() => setOpen(true)} sx={{ justifySelf: "start", px: 0 }}>
        Set how long it may wait
      </Button>
    );
  }
  const before = drink.steps.slice(0, drink.steps.indexOf(step));
  const sentence = (of: string) => report.frames.find((f) => f.step === of)?.sentence ?? of;
  return (
    <Box sx={{ display: "grid", gap: 1.75 }}>
      <TypedField
        label="May wait afterwards, minutes"
        value={step.may_stand == null ? "" : String(step.may_stand)}
        hint={step.may_stand == null ? "Calculated unless you set it; see Plan." : undefined}
        onType={async (text) => {
          if (text === "") return editor.tryEdit(setTiming(id, { may_stand: undefined }));
          const { number, wrong } = await numberIn("minutes", text);
          return wrong ?? editor.tryEdit(setTiming(id, { may_stand: number }));
        }}
      />
      {before.length > 0 && (
        <TextField
          select
          size="small"
          label="Only after"
          value={step.after?.at(-1) ?? ""}
          onChange={(event) => {
            const after = event.target.value ? [event.target.value] : [];
            editor.edit(setTiming(id, { after }));
          }}
        >
          <MenuItem value="">what is in its vessels</MenuItem>
          {before.map((other) => (
            <MenuItem key={other.id} value={other.id}>
              {sentence(other.id ?? "")}
            </MenuItem>
          ))}
        </TextField>
      )}
    </Box>
  );
}

/** What happens in a step, what is left over, and what to be careful about. */
function Facts({ frame }: { frame: DrinkReport["frames"][number] }) {
  const state = frame.states.at(-1);
  return (
    <Box sx={{ fontSize: 14, color: colour("muted"), display: "grid", gap: 0.75 }}>
      <Box>
        {span(frame.minutes)}
        {frame.hands_on_minutes < frame.minutes - 0.5 &&
          `, ${span(frame.hands_on_minutes)} hands-on`}
        {frame.steam_g >= 1 && `; ${weight(frame.steam_g)} water boils off`}
        {frame.water_line_mm != null &&
          `; the level is then ${depth(frame.water_line_mm)} above the bottom`}
        {state &&
          state.invert_percent >= 15 &&
          state.brix > 20 &&
          `; ${state.invert_percent.toFixed(0)} % of the sugar is inverted, so it won't crystallise`}
        .
      </Box>
      {frame.left_over && <Box>{frame.left_over}</Box>}
      {frame.notices.map((notice) => (
        <Box key={notice.message} sx={{ color: colour("ink") }}>
          {notice.message}
        </Box>
      ))}
      {frame.cautions.map((caution) => (
        <Box
          key={caution.message}
          sx={{
            bgcolor: colour("notice"),
            color: colour("onNotice"),
            borderRadius: "8px",
            p: 1.25,
          }}
        >
          <strong>{caution.adult ? "For an adult. " : "Take care. "}</strong>
          {caution.message}
        </Box>
      ))}
    </Box>
  );
}

/** The unit of a field as it is written beside it. */
const inOwn = (unit: string) => (unit === "°C" ? degrees() : unit);

/** What a field of numbers shows: temperatures in the kitchen's own degrees. */
function shownIn(unit: string | undefined, value: unknown): string {
  if (value == null) return "";
  const own = unit === "°C" && degrees() === "°F";
  return own ? temperatureParts(Number(value)).figure : String(value);
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
    case "any_vessel":
      return vessels(() => true);
    case "maybe_vessel": {
      const juice = all.find((it) => it.id === held(step.do).ingredient);
      if (!juice?.leaves_halves) return null;
      const bowls = drink.vessels.filter((v) => !isStrainer(v) && v.kind !== "glass");
      return (
        <Choice
          label={field.label}
          value={String(value ?? "none")}
          options={[
            ["none", "nothing (discard them)"],
            ...bowls.map((v): [string, string] => [
              v.id,
              report.vessels.find((r) => r.id === v.id)?.name ?? v.id,
            ]),
          ]}
          onChoose={(next) => set(next === "none" ? undefined : next)}
        />
      );
    }
    case "bottle":
      return vessels((v) => v.kind === "bottle");
    case "reduction":
      return <Reduction value={value} onSet={set} />;
    case "pot":
      return vessels((v) => v.kind === "pot");
    case "strainer":
      return vessels(isStrainer);
    case "maybe_strainer": {
      // A strainer that is rinsed itself runs straight on.
      const rinsed = drink.vessels.find((v) => v.id === held(step.do).vessel);
      const sieves = drink.vessels.filter(isStrainer);
      if (!rinsed || isStrainer(rinsed) || sieves.length === 0) return null;
      return (
        <Choice
          label={field.label}
          value={String(value ?? "none")}
          options={[
            ["none", "no strainer"],
            ...sieves.map((v): [string, string] => [
              v.id,
              report.vessels.find((r) => r.id === v.id)?.name ?? v.id,
            ]),
          ]}
          onChoose={(next) => set(next === "none" ? undefined : next)}
        />
      );
    }
    case "glass":
      return vessels((v) => v.kind === "glass" || v.kind === "bottle");
    case "ingredient":
      return named(() => true);
    case "juice":
      return named((it) => it.can_be_squeezed);
    case "pourable":
      return named((it) => it.form === "liquid" || it.form === "ice");
    case "choice": {
      const cuts = all.find((it) => it.id === held(step.do).ingredient)?.form === "pieces";
      if (field.key === "cut" && !cuts) return null;
      // What a drink leaves out is the first of the choices.
      const usual = Object.keys(field.options)[0];
      return (
        <Choice
          label={field.label}
          value={String(value ?? usual)}
          options={Object.entries(field.options)}
          onChoose={set}
        />
      );
    }
    case "maybe_amount":
      return (
        <TypedField
          label={field.label}
          value={value == null ? "" : String(value)}
          onType={(text) => set(text.trim() === "" ? undefined : text)}
        />
      );
    case "amount":
      return (
        <>
          <TypedField
            label={field.label}
            value={String(value)}
            onType={async (text) => {
              const { read, unread } = await readAs("amount", text, { before: String(value) });
              return read ? set(read.text) : unread?.message;
            }}
          />
          {/\bparts?\b/.test(String(value)) && (
            <TypedField
              label="One part is"
              value={drink.part ?? "30 ml"}
              onType={(text) => editor.tryEdit((d) => ({ ...d, part: text }))}
            />
          )}
        </>
      );
    case "number":
      return (
        <TypedField
          label={field.unit ? `${field.label}, ${inOwn(field.unit)}` : field.label}
          value={shownIn(field.unit, value)}
          onType={async (text) => {
            if (field.maybe && text.trim() === "") return set(undefined);
            const { number, wrong } = await numberIn(kindOf(field.unit), text);
            if (wrong) return wrong;
            return field.whole && number % 1 ? "Enter a whole number." : set(number);
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
  hint?: string | undefined;
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
      helperText={wrong ?? props.hint}
      onChange={(event) => {
        setTyped(event.target.value);
        setWrong(undefined);
      }}
      onBlur={() => void commit()}
      onKeyDown={(event) => event.key === "Enter" && void commit()}
    />
  );
}

/** Down to a volume, a °Brix or a boiling temperature. */
function Reduction({
  value,
  onSet,
}: {
  value: unknown;
  onSet: (part: unknown) => Promise<string | undefined>;
}) {
  const part = value as "mark" | { volume: string } | { brix: number } | { boiling_at: number };
  const kind = part === "mark" ? part : (Object.keys(part)[0] as "volume" | "brix" | "boiling_at");
  const starts = {
    mark: "mark",
    volume: { volume: "500 ml" },
    brix: { brix: 60 },
    boiling_at: { boiling_at: 103 },
  };
  const held = part === "mark" ? "" : String(Object.values(part)[0]);
  return (
    <>
      <Choice
        label="Until"
        value={kind}
        options={[
          ["volume", "a volume"],
          ["brix", "a sugar reading, °Bx"],
          ["boiling_at", "a boiling temperature"],
          ["mark", "the mark"],
        ]}
        onChoose={(next) => onSet(starts[next as typeof kind])}
      />
      {kind !== "mark" && (
        <TypedField
          label={{ volume: "Volume left, measured cold", brix: "°Bx", boiling_at: degrees() }[kind]}
          value={shownIn(kind === "boiling_at" ? "°C" : undefined, held)}
          onType={async (text) => {
            if (kind === "volume") return onSet({ volume: text });
            const is = kind === "boiling_at" ? "celsius" : "number";
            const { number, wrong } = await numberIn(is, text);
            return wrong ?? onSet({ [kind]: number });
          }}
        />
      )}
    </>
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
          ["share", "a share"],
          ["volume", "a volume"],
        ]}
        onChoose={(next) => onSet(starts[next])}
      />
      {part !== "all" && "share" in part && (
        <TypedField
          label="Share, %"
          value={String(Math.round(part.share * 1000) / 10)}
          onType={async (text) => {
            const { number, wrong } = await numberIn("number", text);
            return wrong ?? onSet({ share: number / 100 });
          }}
        />
      )}
      {part !== "all" && "volume" in part && (
        <TypedField label="Volume" value={part.volume} onType={(text) => onSet({ volume: text })} />
      )}
    </>
  );
}
