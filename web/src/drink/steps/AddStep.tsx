import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import { useState } from "react";
import { useQuestion } from "../../api/ask";
import { answer, api, asking, type Drink, type DrinkReport } from "../../api/client";
import { colour } from "../../ui/theme";
import { AddIngredient } from "../balance/AddIngredient";
import { insertStep } from "../editing/changes";
import type { Editor } from "../editing/editor";
import { useStepForms } from "../../api/queries";
import { isStrainer, laneOf, nameOf, vesselKinds } from "../editing/actions";
import { Trouble } from "../../ui/Trouble";
import { keys } from "../../api/keys";

interface AddStepProps {
  editor: Editor;
  drink: Drink;
  report: DrinkReport;
  /** Where the new step comes among the others; at the end if it isn't said. */
  place: number | undefined;
  /** The vessel that was asked for. */
  vessel?: string | undefined;
  onAdded: (step: string) => void;
}

/** The vessel that a step at that place is on: the one that was asked for, or that the step before it was on. */
export function vesselInHand(drink: Drink, at: number, asked: string | undefined) {
  const last = drink.steps.slice(0, at).findLast((step) => laneOf(step.do) !== "");
  const usual = drink.vessels.find((v) => last && v.id === laneOf(last.do));
  return (
    drink.vessels.find((v) => v.id === asked) ??
    (usual && !isStrainer(usual) ? usual : drink.vessels.find((v) => !isStrainer(v)))
  );
}

/** The palette: what can be done next with a vessel, as it stands then. */
export function AddStep(props: AddStepProps) {
  const { editor, drink, report, place, onAdded } = props;
  const at = Math.min(place ?? drink.steps.length, drink.steps.length);
  const [picked, setPicked] = useState<string | undefined>(props.vessel);
  const vessel = vesselInHand(drink, at, picked);
  const {
    data: next,
    error,
    again,
    latest,
  } = useQuestion(
    keys.nextSteps(drink.vessels, drink.steps.slice(0, at), vessel?.id),
    (signal) =>
      answer(
        api.POST("/api/compute/next-steps", {
          body: { drink, at, vessel: vessel?.id ?? "" },
          headers: asking("next steps"),
          signal,
        }),
      ),
    vessel !== undefined,
  );

  // From here on the new step says which vessel comes next.
  const added = (id: string) => {
    setPicked(undefined);
    onAdded(id);
  };
  const insert = (action: Parameters<typeof insertStep>[2], vessels: Drink["vessels"]) => {
    let made = "";
    editor.edit((d) => {
      const [next, id] = insertStep({ ...d, vessels: [...d.vessels, ...vessels] }, at, action);
      made = id;
      return next;
    });
    added(made);
  };
  const begin = (name: string) =>
    void latest(({ steps }) => {
      const beginning = steps.find((step) => nameOf(step.action) === name);
      if (beginning) insert(beginning.action, beginning.vessels);
    });
  const { data: forms = [] } = useStepForms();
  const fits = forms.filter(({ action }) => next?.steps.some((s) => nameOf(s.action) === action));
  const offered = [...new Set(forms.map((form) => form.group))].map((group) => ({
    group,
    fits: fits.filter((form) => form.group === group),
  }));
  const prepare = forms.find((form) => form.action === "prepare");
  const washes = report.lines.find((line) => !line.is_fill_line)?.ingredient;

  return (
    <Box component="section" aria-label="Add a step" sx={{ mt: 2.5 }}>
      <Box sx={{ display: "flex", flexWrap: "wrap", alignItems: "center", gap: 1 }}>
        <Box sx={{ color: colour("muted"), fontSize: 14 }}>
          {at === drink.steps.length
            ? "Next, in"
            : at > 0
              ? `After step ${at}, in`
              : "As the first step, in"}
        </Box>
        <TextField
          select
          size="small"
          value={vessel?.id ?? ""}
          onChange={(event) => setPicked(event.target.value)}
          slotProps={{ htmlInput: { "aria-label": "Vessel for the new step" } }}
          sx={{ minWidth: 120 }}
        >
          {drink.vessels.map((v) => (
            <MenuItem key={v.id} value={v.id}>
              {report.vessels.find((r) => r.id === v.id)?.name ?? v.id}
            </MenuItem>
          ))}
        </TextField>
        <TextField
          select
          size="small"
          value=""
          label="Another vessel"
          onChange={(event) => {
            const kind = event.target.value;
            void latest(({ vessels }) => {
              const made = vessels.find((v) => v.kind === kind);
              if (!made) return;
              editor.edit((d) => ({ ...d, vessels: [...d.vessels, made] }));
              setPicked(made.id);
            });
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
      <Trouble error={error} again={again} />
      <Box sx={{ display: "flex", flexWrap: "wrap", columnGap: 3, rowGap: 1, mt: 1 }}>
        {offered.map(({ group, fits }) => {
          const puts = group === prepare?.group && vessel && !isStrainer(vessel);
          if (fits.length === 0 && !puts) return null;
          return (
            <Box key={group} role="group" aria-label={group}>
              <Box sx={{ fontSize: 12.5, color: colour("muted"), mb: 0.5 }}>{group}</Box>
              <Box sx={{ display: "flex", flexWrap: "wrap", gap: 0.75 }}>
                {puts && (
                  <AddIngredient
                    editor={editor}
                    at={at}
                    vessel={vessel.id}
                    outlined
                    onAdded={(id) => id && added(id)}
                  />
                )}
                {puts && washes && prepare && (
                  <Button
                    variant="outlined"
                    onClick={() => insert({ prepare: { ingredient: washes, how: "wash" } }, [])}
                    sx={{ minHeight: 44, px: 1.5 }}
                  >
                    {prepare.name}
                  </Button>
                )}
                {fits.map(({ action, name }) => (
                  <Button
                    key={action}
                    variant="outlined"
                    onClick={() => begin(action)}
                    sx={{ minHeight: 44, px: 1.5 }}
                  >
                    {name}
                  </Button>
                ))}
              </Box>
            </Box>
          );
        })}
      </Box>
    </Box>
  );
}
