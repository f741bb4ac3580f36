import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import { useState } from "react";
import type { BatchView, Happening } from "../api/client";
import { displayFont } from "../ui/theme";
import { volume } from "../ui/format";
import { readAs, useRead } from "../ui/reading";
import { amountOf } from "./amount";
import type { AskingProps } from "./asked";
import { Keys } from "./Keys";
import { look } from "./practice";
import { Sheet, VesselField, vesselOf } from "./Sheet";

/** What can go differently. */
const names = {
  more: "Too much",
  less: "Too little",
  used: "Another amount",
  came_out: "I got this much",
  instead: "Another ingredient",
  spilled: "Spilled or discarded",
  added: "Added something",
  left_out: "Skipped it",
  moved: "Another step first",
  again: "It isn't done yet",
} as const;
type Kind = keyof typeof names;

/** Kinds that say how much. */
const counted: Kind[] = ["more", "less", "used", "came_out", "instead", "spilled", "added"];

/** What went differently: one touch for what it was, and large keys for how much. */
export function Otherwise({ view, place, say, onClose, about }: AskingProps) {
  const { steps, report } = view.stands;
  // Steps of which something can be said: done, going on, and the one that is next.
  const told = steps.filter((s, i) => (s.state !== "ahead" || i === place) && !s.besides);
  const [step, setStep] = useState(about ?? steps[place]?.id ?? told.at(-1)?.id ?? "");
  const others = steps.filter((s, i) => s.state === "ahead" && i > place && place >= 0);
  const kinds = kindsOf(view, step, others.length > 0);
  const [kind, setKind] = useState<Kind | undefined>(about ? "came_out" : undefined);
  const chosen = kind && kinds.includes(kind) ? kind : undefined;
  const [amount, setAmount] = useState("");
  const [wrong, setWrong] = useState<string | undefined>();
  const [first, setFirst] = useState(others[0]?.id ?? "");
  const [ingredient, setIngredient] = useState("water");
  const frame = report.frames.find((f) => f.step === step);
  const [vessel, setVessel] = useState(vesselOf(view, place));
  const written = amountOf(view, step);
  const unit = chosen && unitOf(chosen, written);
  const text = chosen ? worded(chosen, amount, unit) : "";
  const changes = chosen === "more" || chosen === "less" || chosen === "used";
  const before = changes ? written : undefined;
  const read = useRead("amount", text, { before });
  const state = steps.find((s) => s.id === step);

  const save = async () => {
    if (!chosen) return;
    let much = "";
    if (counted.includes(chosen)) {
      const { read, unread } = await readAs("amount", text, { before });
      if (!read)
        return setWrong(unread?.message ?? `Enter an amount, such as ${written ?? "180 ml"}.`);
      much = read.text;
    }
    onClose();
    // What went in or came out is done with it.
    const done: Happening[] =
      state?.state === "ahead" && (changes || chosen === "came_out")
        ? [state.waits >= 1 ? { began: { step } } : { done: { step } }]
        : [];
    const undone: Happening[] = state?.state === "done" ? [{ again: { step } }] : [];
    const into = (frame?.vessel ?? vessel) || vessel;
    const all: Record<Kind, Happening[]> = {
      more: [{ used: { step, amount: much } }, ...done],
      less: [{ used: { step, amount: much } }, ...done],
      used: [{ used: { step, amount: much } }, ...done],
      came_out: [{ came_out: { step, amount: much } }, ...done],
      instead: [
        ...undone,
        { left_out: { step } },
        { added: { vessel: into, ingredient, amount: much } },
      ],
      spilled: [{ poured_away: { vessel, volume: much } }],
      added: [{ added: { vessel, ingredient, amount: much } }],
      left_out: [...undone, { left_out: { step } }],
      moved: [{ moved: { step: first, before: steps[place]?.id ?? "" } }],
      again: [{ again: { step } }],
    };
    for (const what of all[chosen]) if (!(await say(what))) return;
  };
  const choose = (kind: Kind) => {
    setKind(kind);
    setAmount("");
    setWrong(undefined);
  };
  const readMarks = () =>
    look(view, { gave: step }).then(
      (seen) => setAmount(`${seen.value?.toFixed(0)} ${seen.unit}`),
      (fault: Error) => setWrong(fault.message),
    );
  return (
    <Sheet
      title="Something went differently"
      act="Save"
      ready={chosen !== undefined}
      pinned
      onSubmit={() => void save()}
      onClose={onClose}
      width={620}
    >
      <TextField
        select
        size="small"
        label="In which step"
        value={step}
        onChange={(e) => setStep(e.target.value)}
      >
        {told.map((s) => (
          <MenuItem key={s.id} value={s.id} sx={{ whiteSpace: "normal" }}>
            {report.frames.find((f) => f.step === s.id)?.sentence}
          </MenuItem>
        ))}
      </TextField>
      {chosen ? (
        <Box sx={{ display: "flex", alignItems: "center", gap: 1, minHeight: 48 }}>
          <Box sx={{ ...displayFont, flex: 1, fontSize: 22, fontWeight: 700 }}>{names[chosen]}</Box>
          <Button onClick={() => setKind(undefined)} sx={{ minHeight: 48 }}>
            Something else
          </Button>
        </Box>
      ) : (
        <Box
          role="group"
          aria-label="What happened"
          sx={{
            display: "grid",
            gridTemplateColumns: { xs: "1fr 1fr", sm: "1fr 1fr 1fr" },
            gap: 1,
          }}
        >
          {kinds.map((kind) => (
            <Button
              key={kind}
              variant="outlined"
              onClick={() => choose(kind)}
              sx={{ minHeight: 72, fontSize: 17, lineHeight: 1.2 }}
            >
              {names[kind]}
            </Button>
          ))}
        </Box>
      )}
      {chosen === "moved" && (
        <TextField
          select
          label="Which step"
          value={first}
          onChange={(e) => setFirst(e.target.value)}
        >
          {others.map((s) => (
            <MenuItem key={s.id} value={s.id} sx={{ whiteSpace: "normal" }}>
              {report.frames.find((f) => f.step === s.id)?.sentence}
            </MenuItem>
          ))}
        </TextField>
      )}
      {(chosen === "added" || chosen === "spilled") && (
        <VesselField view={view} value={vessel} onChange={setVessel} />
      )}
      {(chosen === "added" || chosen === "instead") && (
        <TextField
          select
          label="Ingredient"
          value={ingredient}
          onChange={(e) => setIngredient(e.target.value)}
        >
          {atHand(view).map(([id, name]) => (
            <MenuItem key={id} value={id}>
              {name}
            </MenuItem>
          ))}
        </TextField>
      )}
      {chosen && counted.includes(chosen) && (
        <Keys
          label={asks[chosen] ?? "How much"}
          value={amount}
          unit={/[a-z]/i.test(amount) ? undefined : unit}
          quick={chosen === "spilled" ? sharesOf(view, vessel) : undefined}
          understood={read.text && changes ? `${read.text} in all` : read.understood}
          wrong={wrong ?? (amount.trim() ? read.wrong : undefined)}
          onChange={(text) => {
            setAmount(text);
            setWrong(undefined);
          }}
        />
      )}
      {chosen === "came_out" && view.practice && (
        <Button variant="outlined" onClick={() => void readMarks()}>
          Read the marks
        </Button>
      )}
    </Sheet>
  );
}

const asks: Partial<Record<Kind, string>> = {
  more: "How much too much",
  less: "How much too little",
};

/** What can have gone differently with a step. */
function kindsOf(view: BatchView, step: string, others: boolean): Kind[] {
  const action = view.stands.drink.steps.find((s) => s.id === step)?.do ?? {};
  const gives = ["squeeze", "strain", "reduce", "boil"].some((kind) => kind in action);
  const brings = amountOf(view, step) !== undefined;
  const state = view.stands.steps.find((s) => s.id === step)?.state;
  const can: [Kind, boolean][] = [
    ["more", brings],
    ["less", brings],
    ["used", brings],
    ["came_out", gives],
    ["instead", brings],
    ["spilled", true],
    ["added", true],
    ["left_out", state === "ahead"],
    ["moved", others],
    ["again", state === "done"],
  ];
  return can.filter(([, there]) => there).map(([kind]) => kind);
}

/** What a bare number counts. */
function unitOf(kind: Kind, written: string | undefined): string {
  const measured = written?.match(/[a-z][a-z ]*$/i)?.[0].trim();
  switch (kind) {
    case "more":
    case "less":
    case "used":
      return measured ?? "";
    case "instead":
      return measured ?? "g";
    case "added":
      return "g";
    default:
      return "ml";
  }
}

/** What is typed, as it is read: a bare number counts in the unit that stands beside it. */
function worded(kind: Kind, amount: string, unit: string | undefined): string {
  const typed = amount.trim();
  if (!typed) return "";
  const bare = /^[\d\s.,/]+$/.test(typed);
  const whole = bare && unit ? `${typed} ${unit}` : typed;
  if (kind === "more" && !/more|much|\+/.test(whole)) return `${whole} more`;
  if (kind === "less" && !/less|little|few|^-/.test(whole)) return `${whole} less`;
  return whole;
}

/** What may have gone in: what the drink is made of, and what always stands beside the stove. */
function atHand(view: BatchView): [string, string][] {
  const usual: [string, string][] = [
    ["water", "Water"],
    ["white_sugar", "White sugar"],
    ["lemon_juice", "Lemon juice"],
    ["lime_juice", "Lime juice"],
    ["honey", "Honey"],
    ["citric_acid", "Citric acid"],
    ["club_soda", "Soda water"],
    ["ice", "Ice"],
    ["table_salt", "Salt"],
  ];
  const lines = view.stands.report.lines.map((l): [string, string] => [l.ingredient, l.name]);
  return [...lines, ...usual].filter(
    ([id], i, all) => all.findIndex(([other]) => other === id) === i,
  );
}

/** Shares of what stands in a vessel now. */
function sharesOf(view: BatchView, vessel: string): [string, string][] | undefined {
  const { steps, report } = view.stands;
  const done = steps.filter((s) => s.state === "done").map((s) => s.id);
  const states = report.frames.filter((f) => done.includes(f.step)).flatMap((f) => f.states);
  const ml = states.findLast((s) => s.vessel === vessel)?.liquid_ml;
  if (!ml || ml < 20) return undefined;
  const share = (of: number) => volume(Math.max(5, Math.round((ml * of) / 5) * 5));
  return [
    ["a splash", volume(30)],
    ["a quarter", share(0.25)],
    ["half", share(0.5)],
    ["all of it", share(1)],
  ];
}
