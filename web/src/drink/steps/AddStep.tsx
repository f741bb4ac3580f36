import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import { useState } from "react";
import type { Drink, DrinkReport, StateReport, VesselKind } from "../../api/client";
import { colour } from "../../app/theme";
import { AddIngredient } from "../balance/AddIngredient";
import { insertStep } from "../changes";
import type { Editor } from "../editor";
import {
  type ActionName,
  actions,
  begin,
  isStrainer,
  laneOf,
  newVessel,
  vesselKinds,
} from "./actions";

interface AddStepProps {
  editor: Editor;
  drink: Drink;
  report: DrinkReport;
  /** The chosen step; the new one comes behind it, or at the end. */
  after: string | undefined;
  onAdded: (step: string) => void;
}

const offered: ActionName[] = [
  "heat",
  "infuse",
  "blend",
  "strain",
  "pour",
  "top_up",
  "cool",
  "serve",
];

/** The palette: what can be done next with a vessel, as it stands then. */
export function AddStep({ editor, drink, report, after, onAdded }: AddStepProps) {
  const index = drink.steps.findIndex((step) => step.id === after);
  const at = index >= 0 ? index + 1 : drink.steps.length;
  const holders = drink.vessels.filter((v) => !isStrainer(v) && v.kind !== "glass");
  const [picked, setPicked] = useState<string | undefined>();
  const last = drink.steps.slice(0, at).findLast((step) => !("serve" in step.do));
  const usual = last && holders.find((v) => v.id === laneOf(last.do));
  const vessel = holders.find((v) => v.id === picked) ?? usual ?? holders[0];
  const state = vessel && stateAt(report, drink, at, vessel.id);

  // From here on the new step says which vessel comes next.
  const added = (id: string) => {
    setPicked(undefined);
    onAdded(id);
  };
  const add = (name: ActionName) => {
    const beginning = vessel && begin(name, drink, vessel, state);
    if (!beginning) return;
    let made = "";
    editor.edit((d) => {
      const [next, id] = insertStep(
        { ...d, vessels: [...d.vessels, ...beginning.vessels] },
        at,
        beginning.action,
      );
      made = id;
      return next;
    });
    added(made);
  };

  return (
    <Box
      role="group"
      aria-label="Add a step"
      sx={{ display: "flex", flexWrap: "wrap", alignItems: "center", gap: 1, mt: 2 }}
    >
      <Box sx={{ color: colour("muted"), fontSize: 14 }}>
        {index >= 0 ? `After step ${at}, in` : "Next, in"}
      </Box>
      <TextField
        select
        size="small"
        value={vessel?.id ?? ""}
        onChange={(event) => setPicked(event.target.value)}
        slotProps={{ htmlInput: { "aria-label": "Vessel for the new step" } }}
        sx={{ minWidth: 120 }}
      >
        {holders.map((v) => (
          <MenuItem key={v.id} value={v.id}>
            {report.vessels.find((r) => r.id === v.id)?.name ?? v.id}
          </MenuItem>
        ))}
      </TextField>
      <AddIngredient
        editor={editor}
        drink={drink}
        report={report}
        at={at}
        vessel={vessel?.id}
        onAdded={(id) => id && added(id)}
      />
      {offered.map((name) => (
        <Button
          key={name}
          variant="outlined"
          disabled={!vessel || !begin(name, drink, vessel, state)}
          onClick={() => add(name)}
          sx={{ minHeight: 44, px: 1.75 }}
        >
          {actions[name].name}
        </Button>
      ))}
      <TextField
        select
        size="small"
        value=""
        label="Another vessel"
        onChange={(event) => {
          const made = newVessel(drink, event.target.value as VesselKind);
          editor.edit((d) => ({ ...d, vessels: [...d.vessels, made] }));
          setPicked(isStrainer(made) ? undefined : made.id);
        }}
        sx={{ minWidth: 160 }}
      >
        {Object.entries(vesselKinds).map(([kind, name]) => (
          <MenuItem key={kind} value={kind}>
            {name}
          </MenuItem>
        ))}
      </TextField>
    </Box>
  );
}

/** What a vessel holds before the step at a position. */
function stateAt(
  report: DrinkReport,
  drink: Drink,
  at: number,
  vessel: string,
): StateReport | undefined {
  const before = new Set(drink.steps.slice(0, at).map((step) => step.id));
  return report.frames
    .filter((frame) => before.has(frame.step))
    .flatMap((frame) => frame.states)
    .findLast((state) => state.vessel === vessel);
}
