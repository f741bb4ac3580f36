import FormControlLabel from "@mui/material/FormControlLabel";
import MenuItem from "@mui/material/MenuItem";
import Switch from "@mui/material/Switch";
import TextField from "@mui/material/TextField";
import { useState } from "react";
import type { Drink, DrinkReport, Schemas, Step } from "../../api/client";
import { useIngredients } from "../../api/queries";
import { degrees, temperatureParts } from "../../ui/format";
import { numberIn, readAs } from "../../ui/reading";
import { TypedField } from "../../ui/TypedField";
import { setPart } from "../editing/changes";
import type { Editor } from "../editing/editor";
import { held, isStrainer } from "../editing/actions";

type Field = Schemas["StepField"];
type Ingredient = ReturnType<typeof useIngredients>["data"] extends (infer T)[] | undefined
  ? T
  : never;

/** The unit of a field as it is written beside it. */
const inOwn = (unit: string) => (unit === "°C" ? degrees() : unit);

/** What a field of numbers shows: temperatures in the kitchen's own degrees. */
function shownIn(unit: string | undefined, value: unknown): string {
  if (value == null) return "";
  const own = unit === "°C" && degrees() === "°F";
  return own ? temperatureParts(Number(value)).figure : String(value);
}

interface StepFieldProps {
  editor: Editor;
  drink: Drink;
  report: DrinkReport;
  step: Step;
  field: Field;
}

/** One field of a step, as the core says what it takes. */
export function StepField({ editor, drink, report, step, field }: StepFieldProps) {
  const { data: all = [] } = useIngredients();
  const { key, label, takes } = field;
  const part = held(step.do);
  const value = part[key];
  const set = (next: unknown) => editor.tryEdit(setPart(step.id ?? "", { [key]: next }));
  const brought = all.find((it) => it.id === part.ingredient);
  const used = drink.vessels.find((v) => v.id === part.vessel);
  if (!means[field.asked](brought, used, drink)) return null;
  switch (takes.kind) {
    case "vessel": {
      const options = drink.vessels
        .filter(fits[takes.which])
        .map((v): [string, string] => [
          v.id,
          report.vessels.find((r) => r.id === v.id)?.name ?? v.id,
        ]);
      if (field.optional) options.unshift(["none", field.without]);
      return (
        <Choice
          label={label}
          value={String(value ?? "none")}
          options={options}
          onChoose={(next) => set(next === "none" ? undefined : next)}
        />
      );
    }
    case "ingredient":
      return (
        <Choice
          label={label}
          value={String(value ?? "")}
          options={all
            .filter(isOf[takes.which])
            .map((it): [string, string] => [it.id, it.name])
            .sort((a, b) => a[1].localeCompare(b[1]))}
          onChoose={set}
        />
      );
    case "choice":
      return (
        <Choice
          label={label}
          // What a drink leaves out is the first of the words.
          value={String(value ?? takes.options[0]?.value)}
          options={takes.options.map((word) => [word.value, word.label])}
          onChoose={set}
        />
      );
    case "amount":
      return (
        <>
          <TypedField
            label={field.optional ? `${label} (optional)` : label}
            value={value == null ? "" : String(value)}
            onType={async (text) => {
              if (field.optional && text === "") return set(undefined);
              const { read, unread } = await readAs("amount", text, {
                before: String(value ?? ""),
              });
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
          label={takes.unit ? `${label}, ${inOwn(takes.unit)}` : label}
          value={shownIn(takes.unit, value)}
          onType={async (text) => {
            if (field.optional && text === "") return set(undefined);
            const { number, wrong } = await numberIn(takes.read_as, text);
            if (wrong) return wrong;
            return takes.whole && number % 1 ? "Enter a whole number." : set(number);
          }}
        />
      );
    case "switch":
      return (
        <FormControlLabel
          label={label}
          control={
            <Switch checked={value === true} onChange={(event) => void set(event.target.checked)} />
          }
        />
      );
    case "portion":
      return <Portion value={value} onSet={set} />;
    case "reduction":
      return <Reduction value={value} onSet={set} />;
  }
}

const fits: Record<Schemas["WhichVessels"], (v: Vessel) => boolean> = {
  any: () => true,
  holding: (v) => !isStrainer(v) && v.kind !== "glass",
  strainer: isStrainer,
  pot: (v) => v.kind === "pot",
  bottle: (v) => v.kind === "bottle",
  glass: (v) => v.kind === "glass" || v.kind === "bottle",
};

const isOf: Record<Schemas["WhichIngredients"], (it: Ingredient) => boolean> = {
  any: () => true,
  juice: (it) => it.can_be_squeezed,
  pourable: (it) => it.form === "liquid" || it.form === "ice",
};

type Vessel = Drink["vessels"][number];

/** Whether a field means anything in this step: by what it brings, the vessel that it is about, and the drink. */
const means: Record<
  Schemas["AskedIf"],
  (brought: Ingredient | undefined, used: Vessel | undefined, drink: Drink) => boolean
> = {
  always: () => true,
  leaves_halves: (brought) => brought?.leaves_halves === true,
  in_pieces: (brought) => brought?.form === "pieces",
  holds_liquid: (_, used, drink) =>
    used !== undefined && !isStrainer(used) && drink.vessels.some(isStrainer),
};

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
