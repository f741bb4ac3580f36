import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import { useState } from "react";
import type { Happening } from "../api/client";
import { amountOf } from "./amount";
import type { AskingProps } from "./asked";
import { readAs, useRead } from "../ui/reading";
import { look } from "./practice";
import { Sheet, VesselField, vesselOf } from "./Sheet";

/** What really went in or came out, what was put in besides, what is left out. */
export function Otherwise({ view, place, say, onClose, about }: AskingProps) {
  const { steps, report, drink } = view.stands;
  // Steps of which something can be said: done, going on, and the one that is next.
  const told = steps.filter((s, i) => (s.state !== "ahead" || i === place) && !s.besides);
  const [step, setStep] = useState(about ?? steps[place]?.id ?? told.at(-1)?.id ?? "");
  const written = amountOf(view, step);
  const action = drink.steps.find((s) => s.id === step)?.do ?? {};
  const gives = "squeeze" in action || "strain" in action || "reduce" in action || "boil" in action;
  const state = steps.find((s) => s.id === step)?.state;
  const kinds: [string, string][] = [];
  if (written) kinds.push(["used", "I used a different amount"]);
  if (gives) kinds.push(["came_out", "I got this much"]);
  if (state === "ahead") kinds.push(["left_out", "I'm skipping this step"]);
  const others = steps.filter((s, i) => s.state === "ahead" && i > place && place >= 0);
  if (others.length > 0) kinds.push(["moved", "I'm doing another step first"]);
  kinds.push(["added", "I added something else"], ["poured_away", "I discarded some"]);
  if (state === "done") kinds.push(["again", "It isn't done yet"]);
  const [kind, setKind] = useState(about && gives ? "came_out" : kinds[0]![0]);
  const chosen = kinds.some(([k]) => k === kind) ? kind : kinds[0]![0];
  const [amount, setAmount] = useState("");
  const [wrong, setWrong] = useState<string | undefined>();
  const [first, setFirst] = useState(others[0]?.id ?? "");
  const [ingredient, setIngredient] = useState("water");
  const [vessel, setVessel] = useState(vesselOf(view, place));
  const lines = report.lines.filter(
    (l, i, all) => all.findIndex((o) => o.ingredient === l.ingredient) === i,
  );
  const read = useRead("amount", amount, { before: written });
  const happening = (amount: string): Happening => {
    switch (chosen) {
      case "used":
        return { used: { step, amount } };
      case "came_out":
        return { came_out: { step, amount } };
      case "left_out":
        return { left_out: { step } };
      case "again":
        return { again: { step } };
      case "moved":
        return { moved: { step: first, before: steps[place]!.id } };
      case "added":
        return { added: { vessel, ingredient, amount } };
      default:
        return { poured_away: { vessel, volume: amount } };
    }
  };
  const needsAmount = !["left_out", "again", "moved"].includes(chosen);
  const besides = chosen === "added" || chosen === "poured_away";
  /** What stands in the field when it is saved, however fast that was. */
  const save = async () => {
    if (!needsAmount) {
      void say(happening(""));
      return onClose();
    }
    const before = chosen === "used" ? written : undefined;
    const { read, unread } = await readAs("amount", amount, { before });
    if (!read) return setWrong(unread?.message ?? "Enter an amount, such as 180 ml.");
    void say(happening(read.text));
    onClose();
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
      onSubmit={() => void save()}
      onClose={onClose}
    >
      <TextField select label="What" value={chosen} onChange={(e) => setKind(e.target.value)}>
        {kinds.map(([key, name]) => (
          <MenuItem key={key} value={key}>
            {name}
          </MenuItem>
        ))}
      </TextField>
      {chosen === "moved" && (
        <TextField
          select
          label="Which one"
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
      {!besides && chosen !== "moved" && (
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
      {besides && <VesselField view={view} value={vessel} onChange={setVessel} />}
      {chosen === "added" && (
        <TextField
          select
          label="Taste"
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
          onChange={(e) => {
            setAmount(e.target.value);
            setWrong(undefined);
          }}
          error={wrong !== undefined}
          helperText={wrong ?? (chosen === "used" ? (read.wrong ?? read.understood) : undefined)}
        />
      )}
      {chosen === "came_out" && view.practice && (
        <Box>
          <Button variant="outlined" onClick={() => void readMarks()}>
            Read the marks
          </Button>
        </Box>
      )}
    </Sheet>
  );
}
