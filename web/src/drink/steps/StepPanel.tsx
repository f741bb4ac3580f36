import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import { useState } from "react";
import type { Drink, DrinkReport, Step } from "../../api/client";
import { useStepForms } from "../../api/queries";
import { colour, displayFont } from "../../ui/theme";
import { depth, span, weight } from "../../ui/format";
import { copyStep, removeStep, setNote, setTiming } from "../editing/changes";
import type { Editor } from "../editing/editor";
import { nameOf } from "../editing/actions";
import { MeasuredVolume } from "./MeasuredVolume";
import { reorder, tryOrder } from "./order";
import { Steeping } from "./Steeping";
import { useFocusBack } from "../../ui/useFocusBack";
import { numberIn } from "../../ui/reading";
import { TypedField } from "../../ui/TypedField";
import { StepField } from "./StepFields";

interface StepPanelProps {
  editor: Editor;
  drink: Drink;
  report: DrinkReport;
  step: Step;
  onClose: () => void;
}

/** One step, to be changed in place. */
export function StepPanel({ editor, drink, report, step, onClose }: StepPanelProps) {
  const panel = useFocusBack();
  const [refused, setRefused] = useState<string | undefined>();
  const id = step.id ?? "";
  const { data: forms } = useStepForms();
  const form = forms?.find(({ action }) => action === nameOf(step.do));
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
      ref={panel}
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
          {index + 1}. {form?.name}
        </Box>
        <Button onClick={onClose} sx={{ minWidth: 0, px: 1 }}>
          Close
        </Button>
      </Box>
      {form?.fields.map((field) => (
        <StepField
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
