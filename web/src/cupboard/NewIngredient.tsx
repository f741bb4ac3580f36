import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import { useState } from "react";
import type { Schemas } from "../api/client";
import { useKitchen } from "../api/queries";
import { colour } from "../ui/theme";
import { TitledDialog } from "../ui/TitledDialog";
import { Figures } from "../ui/Figures";
import { numberIn } from "../ui/reading";

type OwnIngredient = Schemas["OwnIngredient"];

const kinds: [OwnIngredient["kind"], string][] = [
  ["juice", "juice"],
  ["fruit", "fruit"],
  ["vegetable", "vegetable"],
  ["root", "root"],
  ["herb", "leaves"],
  ["flower", "flowers"],
  ["spice", "spice"],
  ["sweetener", "sugar or sweetener"],
  ["syrup", "syrup or honey"],
  ["dairy", "milk or cream"],
  ["acid", "vinegar or acid"],
  ["soda", "soda"],
  ["spirit", "spirit or wine"],
  ["flavouring", "essence"],
];
const forms: [OwnIngredient["form"], string][] = [
  ["liquid", "liquid"],
  ["crystals", "crystals or powder"],
  ["pieces", "solid pieces"],
];

/** The form that a kind of ingredient usually has: a spice is no liquid. */
function usualForm(kind: OwnIngredient["kind"]): OwnIngredient["form"] {
  if (["juice", "syrup", "spirit", "dairy", "acid", "soda", "flavouring"].includes(kind))
    return "liquid";
  return kind === "sweetener" ? "crystals" : "pieces";
}

/** An ingredient that the tables haven't got, by what its label or an instrument says. */
export function NewIngredient(props: {
  /** What it is called, where that was typed already. */
  name?: string;
  onClose: () => void;
  onMade: (id: string) => void;
}) {
  const { kitchen, change } = useKitchen();
  const [name, setName] = useState(props.name ?? "");
  const [kind, setKind] = useState<OwnIngredient["kind"] | "">("");
  const [form, setForm] = useState<OwnIngredient["form"]>("liquid");
  const [parts, setParts] = useState({ sugar: "", acid: "", alcohol: "", insoluble: "" });
  const [wrong, setWrong] = useState<string | undefined>();
  const make = async () => {
    if (kind === "") return setWrong("Choose what kind of ingredient it is.");
    const read: Record<string, number> = {};
    for (const text of Object.values(parts).filter((text) => text.trim() !== "")) {
      const { number, wrong } = await numberIn("number", text);
      if (wrong) return setWrong(wrong);
      read[text] = number;
    }
    const number = (text: string) => read[text] ?? 0;
    const base = `own_${name
      .toLowerCase()
      .replace(/[^a-z0-9]+/g, "_")
      .slice(0, 40)}`;
    let id = base;
    for (let n = 2; kitchen.ingredients?.some((i) => i.id === id); n++) id = `${base}_${n}`;
    const made = {
      id,
      name: name.trim(),
      kind,
      form,
      sugar: number(parts.sugar),
      acid: number(parts.acid),
      alcohol: number(parts.alcohol),
      insoluble: number(parts.insoluble),
    };
    const problem = await change((k) => ({ ...k, ingredients: [...(k.ingredients ?? []), made] }));
    if (problem) setWrong(problem);
    else props.onMade(id);
  };
  return (
    <TitledDialog title="Your own ingredient" width={480} onClose={props.onClose}>
      <Box
        component="form"
        onSubmit={(event: React.FormEvent) => {
          event.preventDefault();
          void make();
        }}
        sx={{ display: "grid", gap: 1.5 }}
      >
        <TextField
          autoFocus
          size="small"
          label="Name"
          value={name}
          onChange={(event) => setName(event.target.value)}
        />
        <Box sx={{ display: "grid", gridTemplateColumns: "1fr 1fr", gap: 1.5 }}>
          <TextField
            select
            size="small"
            label="Kind"
            value={kind}
            onChange={(event) => {
              const next = event.target.value as OwnIngredient["kind"];
              setKind(next);
              setForm(usualForm(next));
            }}
          >
            {kinds.map(([value, text]) => (
              <MenuItem key={value} value={value}>
                {text}
              </MenuItem>
            ))}
          </TextField>
          <TextField
            select
            size="small"
            label="Form"
            value={form}
            onChange={(event) => setForm(event.target.value as typeof form)}
          >
            {forms.map(([value, text]) => (
              <MenuItem key={value} value={value}>
                {text}
              </MenuItem>
            ))}
          </TextField>
          <Figures
            of={[
              ["sugar", "sugars, g in 100 g"],
              ["acid", "acid, g in 100 g"],
              ["alcohol", "alcohol, % vol"],
              ["insoluble", "pulp and fibre, g in 100 g"],
            ]}
            typed={parts}
            onType={setParts}
          />
        </Box>
        <Box sx={{ fontSize: 14, color: colour("muted") }}>
          What you leave out counts as none. The rest is water.
        </Box>
        {wrong && (
          <Box role="alert" sx={{ color: colour("stop") }}>
            {wrong}
          </Box>
        )}
        <Box sx={{ display: "flex", gap: 1, justifyContent: "flex-end" }}>
          <Button onClick={props.onClose}>Not now</Button>
          <Button type="submit" variant="contained" disabled={name.trim() === ""}>
            Add to the cupboard
          </Button>
        </Box>
      </Box>
    </TitledDialog>
  );
}
