import Box from "@mui/material/Box";
import FormControlLabel from "@mui/material/FormControlLabel";
import Switch from "@mui/material/Switch";
import { useState } from "react";
import type { Kitchen } from "../api/client";
import { useKitchen } from "../api/queries";
import { colour } from "../ui/theme";
import look from "./Cupboard.module.css";
import { OwnField } from "./OwnField";

/** What this kitchen measures with, and how its pots boil. */
export function Measuring() {
  const { kitchen, change } = useKitchen();
  const [wrong, setWrong] = useState<string | undefined>();
  const set = kitchen.measuring ?? {};
  const save = async (part: Partial<NonNullable<Kitchen["measuring"]>>) => {
    const problem = await change((k) => ({ ...k, measuring: { ...k.measuring, ...part } }));
    setWrong(problem);
    return problem;
  };
  const toggle = (
    label: string,
    on: boolean,
    part: (on: boolean) => Parameters<typeof save>[0],
  ) => (
    <FormControlLabel
      label={label}
      control={<Switch checked={on} onChange={(event) => void save(part(event.target.checked))} />}
    />
  );
  const scale = set.scale_g === undefined ? 1 : set.scale_g;
  const jug = set.jug_ml === undefined ? 5 : set.jug_ml;
  return (
    <Box sx={{ maxWidth: 560, display: "grid", gap: 1 }}>
      {toggle("A scale", scale != null, (on) => ({ scale_g: on ? 1 : null }))}
      {scale != null && (
        <div className={look.fields}>
          <OwnField
            label="the scale's smallest step"
            unit="g"
            value={scale}
            own={undefined}
            rests="0.1 for a fine scale, 1 for a kitchen scale"
            places={2}
            onSet={(value) => save({ scale_g: value ?? 1 })}
          />
        </div>
      )}
      {toggle("A measuring jug", jug != null, (on) => ({ jug_ml: on ? 5 : null }))}
      {jug != null && (
        <div className={look.fields}>
          <OwnField
            label="the jug's marks"
            unit="ml apart"
            value={jug}
            own={undefined}
            rests="5 for a small jug, 50 for a large one"
            places={1}
            onSet={(value) => save({ jug_ml: value ?? 5 })}
          />
        </div>
      )}
      {toggle("US cups", set.cups ?? true, (on) => ({ cups: on }))}
      {toggle("Measuring spoons", set.spoons ?? true, (on) => ({ spoons: on }))}
      <Box component="h2" sx={{ fontSize: 17, m: 0, mt: 2 }}>
        How your pots boil
      </Box>
      <div className={look.fields}>
        <OwnField
          label="water lost"
          unit="times the usual"
          value={kitchen.boil_off ?? 1}
          own={kitchen.boil_off}
          rests="estimated, 0.5 to 1.7"
          places={2}
          onSet={(value) => change((k) => ({ ...k, boil_off: value }))}
        />
      </div>
      <Box sx={{ fontSize: 14, color: colour("muted") }}>
        Measure what is left after a boil and enter it at that step: we work out this figure from
        it.
      </Box>
      {wrong && (
        <Box role="alert" sx={{ color: colour("stop") }}>
          {wrong}
        </Box>
      )}
    </Box>
  );
}
