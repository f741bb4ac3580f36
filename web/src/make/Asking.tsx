import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import { useState, type FormEvent, type ReactNode } from "react";
import type { BatchView, Happening } from "../api/client";
import { TitledDialog } from "../app/TitledDialog";
import { amountOf } from "./amount";
import type { Say } from "./useBatch";
import { quantities } from "./words";

export type Asked = "otherwise" | "measure" | "taste" | "note" | "finish";

interface AskingProps {
  asked: Asked;
  view: BatchView;
  /** The step that is next. */
  place: number;
  say: Say;
  onClose: () => void;
}

/** What is said of a batch beside "done". */
export function Asking(props: AskingProps) {
  switch (props.asked) {
    case "otherwise":
      return <Otherwise {...props} />;
    case "measure":
      return <Measure {...props} />;
    case "taste":
      return <Taste {...props} />;
    case "note":
      return <NoteDown {...props} />;
    case "finish":
      return <Finish {...props} />;
  }
}

interface SheetProps {
  title: string;
  act: string;
  onSubmit: () => void;
  onClose: () => void;
  children: ReactNode;
}

function Sheet({ title, act, onSubmit, onClose, children }: SheetProps) {
  return (
    <TitledDialog title={title} width={480} onClose={onClose}>
      <Box
        component="form"
        onSubmit={(event: FormEvent) => {
          event.preventDefault();
          onSubmit();
        }}
        sx={{ display: "grid", gap: 2 }}
      >
        {children}
        <Box sx={{ display: "flex", justifyContent: "flex-end", gap: 1 }}>
          <Button onClick={onClose}>Leave it</Button>
          <Button type="submit" variant="contained">
            {act}
          </Button>
        </Box>
      </Box>
    </TitledDialog>
  );
}

/** Steps of which something can be said: done, going on, and the one that is next. */
function Otherwise({ view, place, say, onClose }: AskingProps) {
  const { steps, report, drink } = view.stands;
  const told = steps.filter((s, i) => (s.state !== "ahead" || i === place) && !s.besides);
  const [step, setStep] = useState(steps[place]?.id ?? told.at(-1)?.id ?? "");
  const written = amountOf(view, step);
  const action = drink.steps.find((s) => s.id === step)?.do ?? {};
  const gives = "squeeze" in action || "strain" in action || "reduce" in action || "boil" in action;
  const state = steps.find((s) => s.id === step)?.state;
  const kinds: [string, string][] = [];
  if (written) kinds.push(["used", "I used another amount"]);
  if (gives) kinds.push(["came_out", "So much came out"]);
  if (state === "ahead") kinds.push(["left_out", "I leave this step out"]);
  kinds.push(["added", "I put something else in"], ["poured_away", "I poured some away"]);
  if (state === "done") kinds.push(["again", "It isn't done after all"]);
  const [kind, setKind] = useState(kinds[0]![0]);
  const chosen = kinds.some(([k]) => k === kind) ? kind : kinds[0]![0];
  const [amount, setAmount] = useState("");
  const [ingredient, setIngredient] = useState("water");
  const vessels = report.vessels.filter((v) => !v.strains && v.id !== "poured_away");
  const [vessel, setVessel] = useState(vesselOf(view, place));
  const lines = report.lines.filter(
    (l, i, all) => all.findIndex((o) => o.ingredient === l.ingredient) === i,
  );
  const submit = () => {
    const what: Happening =
      chosen === "used"
        ? { used: { step, amount } }
        : chosen === "came_out"
          ? { came_out: { step, amount } }
          : chosen === "left_out"
            ? { left_out: { step } }
            : chosen === "again"
              ? { again: { step } }
              : chosen === "added"
                ? { added: { vessel, ingredient, amount } }
                : { poured_away: { vessel, volume: amount } };
    void say(what);
    onClose();
  };
  const needsAmount = chosen !== "left_out" && chosen !== "again";
  const besides = chosen === "added" || chosen === "poured_away";
  return (
    <Sheet title="It came out otherwise" act="So it was" onSubmit={submit} onClose={onClose}>
      <TextField select label="What" value={chosen} onChange={(e) => setKind(e.target.value)}>
        {kinds.map(([key, name]) => (
          <MenuItem key={key} value={key}>
            {name}
          </MenuItem>
        ))}
      </TextField>
      {!besides && (
        <TextField
          select
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
      )}
      {besides && <VesselField view={view} vessels={vessels} value={vessel} onChange={setVessel} />}
      {chosen === "added" && (
        <TextField
          select
          label="Of what"
          value={ingredient}
          onChange={(e) => setIngredient(e.target.value)}
        >
          {[
            ["water", "Water"],
            ["white_sugar", "White sugar"],
            ["lemon_juice", "Lemon juice"],
            ["citric_acid", "Citric acid"],
            ...lines.map((l) => [l.ingredient, l.name]),
          ]
            .filter(([id], i, all) => all.findIndex(([other]) => other === id) === i)
            .map(([id, name]) => (
              <MenuItem key={id} value={id}>
                {name}
              </MenuItem>
            ))}
        </TextField>
      )}
      {needsAmount && (
        <TextField
          label="How much"
          value={amount}
          autoFocus
          required
          placeholder={chosen === "used" ? written : "180 ml"}
          onChange={(e) => setAmount(e.target.value)}
        />
      )}
    </Sheet>
  );
}

/** The vessel that is worked on now. */
function vesselOf(view: BatchView, place: number): string {
  const { steps, report, drink } = view.stands;
  const done = steps.filter((s) => s.state !== "ahead");
  const last = done.at(-1) ?? steps[place];
  const frame = report.frames.find((f) => f.step === last?.id);
  const holders = report.vessels.filter((v) => !v.strains && v.id !== "poured_away");
  const there = frame?.states.map((s) => s.vessel).filter((id) => holders.some((v) => v.id === id));
  return there?.at(-1) ?? holders[0]?.id ?? drink.vessels[0]!.id;
}

function VesselField(props: {
  view: BatchView;
  vessels: { id: string; name: string }[];
  value: string;
  onChange: (vessel: string) => void;
}) {
  return (
    <TextField
      select
      label="In which vessel"
      value={props.value}
      onChange={(event) => props.onChange(event.target.value)}
    >
      {props.vessels.map((vessel) => (
        <MenuItem key={vessel.id} value={vessel.id}>
          {vessel.name}
        </MenuItem>
      ))}
    </TextField>
  );
}

function Measure({ view, place, say, onClose }: AskingProps) {
  const { report, measure } = view.stands;
  const vessels = report.vessels.filter((v) => !v.strains && v.id !== "poured_away");
  const [vessel, setVessel] = useState(measure?.vessel ?? vesselOf(view, place));
  const [quantity, setQuantity] = useState<keyof typeof quantities>(measure?.quantity ?? "brix");
  const [value, setValue] = useState("");
  const [wrong, setWrong] = useState<string | undefined>();
  const submit = () => {
    const read = Number(value.replace(",", "."));
    if (value.trim() === "" || !Number.isFinite(read))
      return setWrong(`“${value}” isn't a number. Write it like 10.4.`);
    void say({ reading: { vessel, quantity, value: read } });
    onClose();
  };
  return (
    <Sheet title="Measure" act="Keep the reading" onSubmit={submit} onClose={onClose}>
      {measure && <Box>{measure.message}</Box>}
      <VesselField view={view} vessels={vessels} value={vessel} onChange={setVessel} />
      <TextField
        select
        label="What"
        value={quantity}
        onChange={(event) => setQuantity(event.target.value as typeof quantity)}
      >
        {Object.entries(quantities).map(([key, name]) => (
          <MenuItem key={key} value={key}>
            {name}
          </MenuItem>
        ))}
      </TextField>
      <TextField
        label="It reads"
        value={value}
        autoFocus
        error={wrong !== undefined}
        helperText={wrong}
        onChange={(event) => {
          setValue(event.target.value);
          setWrong(undefined);
        }}
        slotProps={{ htmlInput: { inputMode: "decimal" } }}
      />
    </Sheet>
  );
}

function Taste({ view, place, say, onClose }: AskingProps) {
  const vessels = view.stands.report.vessels.filter((v) => !v.strains && v.id !== "poured_away");
  const [vessel, setVessel] = useState(vesselOf(view, place));
  const [words, setWords] = useState("");
  return (
    <Sheet
      title="Taste"
      act="Keep that"
      onSubmit={() => {
        if (words.trim()) void say({ tasted: { vessel, words: words.trim() } });
        onClose();
      }}
      onClose={onClose}
    >
      <VesselField view={view} vessels={vessels} value={vessel} onChange={setVessel} />
      <TextField
        label="What it is like"
        value={words}
        autoFocus
        onChange={(event) => setWords(event.target.value)}
        slotProps={{ htmlInput: { maxLength: 2000 } }}
      />
    </Sheet>
  );
}

function NoteDown({ say, onClose }: AskingProps) {
  const [text, setText] = useState("");
  return (
    <Sheet
      title="Note"
      act="Keep the note"
      onSubmit={() => {
        if (text.trim()) void say({ note: { text: text.trim() } });
        onClose();
      }}
      onClose={onClose}
    >
      <TextField
        label="To remember"
        value={text}
        autoFocus
        multiline
        minRows={2}
        onChange={(event) => setText(event.target.value)}
        slotProps={{ htmlInput: { maxLength: 2000 } }}
      />
    </Sheet>
  );
}

function Finish({ say, onClose }: AskingProps) {
  const [place, setPlace] = useState("");
  const [note, setNote] = useState("");
  return (
    <Sheet
      title="Finish"
      act="It is made"
      onSubmit={() => {
        void say({ finished: { place: place.trim(), note: note.trim() } });
        onClose();
      }}
      onClose={onClose}
    >
      <TextField
        label="Where it stands now"
        placeholder="refrigerator, upper shelf"
        value={place}
        autoFocus
        onChange={(event) => setPlace(event.target.value)}
        slotProps={{ htmlInput: { maxLength: 200 } }}
      />
      <TextField
        label="How it turned out"
        value={note}
        multiline
        onChange={(event) => setNote(event.target.value)}
        slotProps={{ htmlInput: { maxLength: 2000 } }}
      />
    </Sheet>
  );
}
