import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import { useState } from "react";
import type { Drink, DrinkReport, VesselReport } from "../../api/client";
import { useKitchen } from "../../api/queries";
import { colour, displayFont } from "../../ui/theme";
import { span, temperature, volume, weight } from "../../ui/format";
import { setVessel } from "../editing/changes";
import type { Editor } from "../editing/editor";
import { useFocusBack } from "../../ui/useFocusBack";
import { pathOf } from "../editing/actions";

interface VesselPanelProps {
  editor: Editor;
  drink: Drink;
  report: DrinkReport;
  vessel: VesselReport;
  /** Where it stands, px from the left. */
  left: number;
  onClose: () => void;
}

/** Width of the panel, px. */
export const PANEL = 380;

/** What is in a vessel, and what happens in it. */
export function VesselPanel({ editor, drink, report, vessel, left, onClose }: VesselPanelProps) {
  const state = vessel.fullest;
  const here = drink.steps.filter((step) => pathOf(step.do).includes(vessel.id));
  const facts = state ? factsOf(state) : [];
  const panel = useFocusBack();
  return (
    <Box
      ref={panel}
      role="region"
      aria-label={`In the ${vessel.name.toLowerCase()}`}
      onKeyDown={(event: React.KeyboardEvent) => event.key === "Escape" && onClose()}
      style={{ left }}
      sx={{
        position: "absolute",
        bottom: "calc(100% - 4px)",
        width: PANEL,
        maxWidth: "calc(100vw - 16px)",
        maxHeight: "min(400px, 56vh)",
        overflowY: "auto",
        bgcolor: colour("enamel"),
        border: `2px solid ${colour("cobalt")}`,
        borderRadius: "14px",
        px: 2.25,
        pt: 1.25,
        pb: 2,
        display: "grid",
        gap: 1.25,
      }}
    >
      <Box sx={{ display: "flex", alignItems: "center", justifyContent: "space-between" }}>
        <Box component="h2" sx={{ ...displayFont, fontSize: 20, fontWeight: 700, m: 0 }}>
          {vessel.name}
        </Box>
        <Button onClick={onClose} sx={{ minWidth: 0, px: 1 }}>
          Close
        </Button>
      </Box>
      <Box sx={{ minWidth: 0 }}>
        {facts.length > 0 ? (
          <Box
            component="dl"
            sx={{ display: "flex", flexWrap: "wrap", columnGap: 3, rowGap: 0.5, m: 0, mb: 1 }}
          >
            {facts.map(([name, value]) => (
              <Box key={name}>
                <Box component="dt" sx={{ fontSize: 13, color: colour("muted") }}>
                  {name}
                </Box>
                <Box component="dd" sx={{ m: 0, fontWeight: 600 }}>
                  {value}
                </Box>
              </Box>
            ))}
          </Box>
        ) : (
          <p>Nothing goes into this vessel yet.</p>
        )}
        <Box component="ol" sx={{ m: 0, pl: 2.5, fontSize: 14, lineHeight: 1.5 }}>
          {here.map((step) => {
            const frame = report.frames.find((f) => f.step === step.id);
            const number = drink.steps.indexOf(step) + 1;
            return (
              <li key={step.id} value={number}>
                {frame?.sentence}{" "}
                <Box component="span" sx={{ color: colour("muted") }}>
                  {frame && frame.minutes >= 3 ? span(frame.minutes) : ""}
                </Box>
              </li>
            );
          })}
        </Box>
      </Box>
      {!vessel.strains && <Capacity editor={editor} vessel={vessel} />}
      {vessel.kind === "glass" && !drink.steps.some((step) => serves(step, vessel.id)) && (
        <HowMany editor={editor} drink={drink} vessel={vessel.id} />
      )}
      <FromKitchen editor={editor} vessel={vessel} />
    </Box>
  );
}

function serves(step: Drink["steps"][number], glass: string): boolean {
  return "serve" in step.do && step.do.serve.glass === glass;
}

/** How many of a glass there are that the drink is made in. */
function HowMany(props: { editor: Editor; drink: Drink; vessel: string }) {
  const count = props.drink.vessels.find((v) => v.id === props.vessel)?.count ?? 1;
  const [text, setText] = useState(String(count));
  const [wrong, setWrong] = useState<string | undefined>();
  const take = async () => {
    const many = Number(text);
    if (!Number.isInteger(many)) return setWrong(`Enter a whole number of glasses.`);
    setWrong(await props.editor.tryEdit(setVessel(props.vessel, { count: many })));
  };
  return (
    <TextField
      size="small"
      label="Glasses, made one by one"
      value={text}
      error={wrong !== undefined}
      helperText={wrong}
      onChange={(event) => setText(event.target.value)}
      onBlur={() => void take()}
      onKeyDown={(event) => event.key === "Enter" && void take()}
      slotProps={{ htmlInput: { inputMode: "numeric" } }}
    />
  );
}

function factsOf(state: NonNullable<VesselReport["fullest"]>): [string, string][] {
  const facts: [string, string][] = [["when fullest", volume(state.level_ml)]];
  if (state.liquid_ml >= 0.5) {
    facts.push(["dissolved", `${state.brix.toFixed(1)} °Bx`]);
    facts.push(["acidity", `${state.acidity_percent.toFixed(2)} %`]);
    if (state.ph != null) facts.push(["pH", state.ph.toFixed(1)]);
  }
  facts.push(["temperature", temperature(state.temperature_c)]);
  facts.push(["weight", weight(state.mass_g)]);
  for (const piece of state.pieces) {
    const drawn = piece.drawn > 0.01 ? `, ${Math.round(piece.drawn * 100)} % drawn` : "";
    facts.push([piece.name.toLowerCase(), `${weight(piece.grams)}${drawn}`]);
  }
  if (state.undissolved_g > 0.5) facts.push(["undissolved", weight(state.undissolved_g)]);
  if (state.ice_g > 0.5) facts.push(["ice", weight(state.ice_g)]);
  return facts;
}

function Capacity({ editor, vessel }: { editor: Editor; vessel: VesselReport }) {
  const [text, setText] = useState(volume(vessel.capacity_ml));
  const [wrong, setWrong] = useState<string | undefined>();
  return (
    <Box
      component="form"
      onSubmit={async (event: React.FormEvent) => {
        event.preventDefault();
        const capacity = text.trim() === "" ? undefined : text.trim();
        setWrong(await editor.tryEdit(setVessel(vessel.id, { capacity, diameter_mm: undefined })));
      }}
      sx={{ display: "flex", gap: 1, alignItems: "flex-start" }}
    >
      <TextField
        size="small"
        label="Holds to the brim"
        value={text}
        error={wrong !== undefined}
        helperText={wrong}
        onChange={(event) => setText(event.target.value)}
        sx={{ width: 150 }}
      />
      <Button type="submit" variant="outlined">
        Set
      </Button>
    </Box>
  );
}

/** One of the kitchen's vessels in the place of this one. */
function FromKitchen({ editor, vessel }: { editor: Editor; vessel: VesselReport }) {
  const { kitchen } = useKitchen();
  if (vessel.own.length === 0) return null;
  return (
    <TextField
      select
      size="small"
      label="Does it fit one of your vessels?"
      value=""
      onChange={(event) => {
        const own = kitchen.vessels?.[Number(event.target.value)];
        if (!own) return;
        void editor.tryEdit(
          setVessel(vessel.id, {
            name: own.name,
            capacity: own.capacity,
            diameter_mm: own.diameter_mm ?? undefined,
            material: own.material ?? undefined,
          }),
        );
      }}
    >
      {vessel.own.map((own) => (
        <MenuItem key={own.index} value={String(own.index)}>
          {own.name}, {own.capacity}:{" "}
          {own.short_ml > 0 ? `${volume(own.short_ml)} too small` : "it fits"}
        </MenuItem>
      ))}
    </TextField>
  );
}
