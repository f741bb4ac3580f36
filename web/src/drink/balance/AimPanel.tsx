import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import { memo, useState } from "react";
import { answer, api, type BalanceMapData } from "../../api/client";
import { glance } from "../../api/compute";
import { useDrinksToChoose } from "../../api/queries";
import { colour } from "../../ui/theme";
import { volume } from "../../ui/format";
import type { Editor } from "../editing/editor";
import type { Aiming } from "./aim";
import { useDrinkers } from "./useDrinkers";
import look from "./Balance.module.css";
import { numberIn, numberWithin } from "../../ui/reading";
import { TypedField } from "../../ui/TypedField";

interface AimPanelProps {
  editor: Editor;
  /** Of the drink that is aimed. */
  name: string;
  aiming: Aiming;
  onCorrect: () => void;
  onLess: () => void;
}

/** From a target to the amounts: choose where, work it out, look at it, take it. */
export const AimPanel = memo(function AimPanel(props: AimPanelProps) {
  const { editor, name, aiming, onCorrect, onLess } = props;
  const [more, setMore] = useState(false);
  const { ring, solution, wrong } = aiming;
  const wants = ring !== undefined || Object.keys(aiming.others).length > 0;
  return (
    <section aria-label="Aim" className={look.aim}>
      {solution ? (
        <Proposal editor={editor} aiming={aiming} />
      ) : (
        <>
          <AimAt editor={editor} name={name} aiming={aiming} onMore={() => setMore(true)} />
          <TargetFields editor={editor} aiming={aiming} />
          {more && <OtherTargets editor={editor} aiming={aiming} />}
          {wants ? (
            <>
              <Button variant="contained" onClick={() => void aiming.work()}>
                Work out the amounts
              </Button>
              <Button onClick={aiming.clear}>Clear the target</Button>
            </>
          ) : (
            <>
              <Button variant="outlined" onClick={onCorrect}>
                Taste and correct
              </Button>
              <Button onClick={onLess}>Less sugar</Button>
            </>
          )}
        </>
      )}
      {wrong && (
        <Box role="alert" sx={{ color: colour("stop"), fontSize: 14 }}>
          {wrong}
        </Box>
      )}
    </section>
  );
});

/** The target in figures, for those who know them; until it is set, where the drink lies. */
function TargetFields({ editor, aiming }: { editor: Editor; aiming: Aiming }) {
  const { ring } = aiming;
  const point = mapOf(editor)?.point;
  const fields = [
    ["sweetness", "sweet", "g", 1, 70],
    ["acidity", "acid", "%", 2, 10],
  ] as const;
  const [wrong, setWrong] = useState<string | undefined>();
  const put = async (key: "sweetness" | "acidity", most: number, text: string) => {
    const from = ring ?? point;
    setWrong(undefined);
    if (!from || text.trim() === "") return;
    const { number: value, wrong } = await numberWithin("number", text, 0, most);
    if (wrong) return setWrong(wrong);
    aiming.set({ ring: { sweetness: from.sweetness, acidity: from.acidity, [key]: value } });
  };
  return (
    <Box data-figure="ring" sx={{ display: "grid", gridTemplateColumns: "1fr 1fr", gap: 1 }}>
      {fields.map(([key, label, unit, places, most]) => (
        <TextField
          key={`${key} ${ring?.[key].toFixed(places) ?? ""}`}
          size="small"
          placeholder={point?.[key].toFixed(places)}
          defaultValue={ring?.[key].toFixed(places) ?? ""}
          onBlur={(event) => {
            if (event.target.value !== event.target.defaultValue)
              put(key, most, event.target.value);
          }}
          onKeyDown={(event) => event.key === "Enter" && (event.target as HTMLElement).blur()}
          slotProps={{
            htmlInput: { inputMode: "decimal", "aria-label": `Target: ${label}, ${unit}` },
            input: { startAdornment: <span className={look.beside}>{label}</span> },
          }}
        />
      ))}
      {wrong && (
        <Box role="alert" sx={{ gridColumn: "1 / -1", color: colour("stop"), fontSize: 13 }}>
          {wrong}
        </Box>
      )}
    </Box>
  );
}

/** The map as it is at the moment. */
function mapOf(editor: Editor): BalanceMapData | undefined {
  return editor.store.getState().shown?.report.map;
}

/** Where to: a band, the middle of its kind, or another drink. */
function AimAt(props: Omit<AimPanelProps, "onCorrect" | "onLess"> & { onMore: () => void }) {
  const { editor, name, aiming, onMore } = props;
  const [opened, setOpened] = useState(false);
  const { data: shelf } = useDrinksToChoose(opened);
  const [wrong, setWrong] = useState<string | undefined>();
  const bands = mapOf(editor)?.bands ?? [];
  const drinkers = useDrinkers(editor.store.getState().drink.family);
  const choose = async (value: string) => {
    const map = mapOf(editor);
    if (!map) return;
    setWrong(undefined);
    if (value === "more") return onMore();
    if (value === "typical") return aiming.set({ ring: map.typical.middle });
    // As strong as it is, at the ratio of a band or of somebody's ideal.
    const along = (ratio: number | undefined) => {
      const sweetness = map.point?.sweetness ?? map.typical.middle.sweetness;
      if (ratio !== undefined) aiming.set({ ring: { sweetness, acidity: sweetness / ratio } });
    };
    if (value.startsWith("taster:"))
      return along(drinkers?.find((d) => d.id === value.slice(7))?.ratio);
    if (value.startsWith("band:"))
      return along(map.bands.find((b) => b.name === value.slice(5))?.ratio_middle);
    try {
      const path = { params: { path: { id: value.slice(6) } } };
      const { drink } = await answer(api.GET("/api/drinks/{id}", path));
      const { point } = (await glance(drink)).map;
      if (point) aiming.set({ ring: { sweetness: point.sweetness, acidity: point.acidity } });
    } catch (error) {
      setWrong((error as Error).message);
    }
  };
  const others = shelf?.drinks.filter((d) => d.ratio != null && d.name !== name) ?? [];
  return (
    <TextField
      select
      size="small"
      value=""
      onChange={(event) => void choose(event.target.value)}
      error={wrong !== undefined}
      helperText={wrong}
      slotProps={{
        select: {
          onOpen: () => setOpened(true),
          displayEmpty: true,
          renderValue: () => "Aim at…",
          SelectDisplayProps: { "aria-label": "Aim at" },
          MenuProps: { slotProps: { paper: { sx: { maxHeight: 380 } } } },
        },
      }}
    >
      <MenuItem value="typical">usual for this kind</MenuItem>
      {bands.map((band) => (
        <MenuItem key={band.name} value={`band:${band.name}`}>
          {band.name}, as strong as it is
        </MenuItem>
      ))}
      {drinkers?.map((d) => (
        <MenuItem key={d.id} value={`taster:${d.id}`}>
          as {d.name} likes it
        </MenuItem>
      ))}
      <MenuItem value="more">a volume, °Bx, alcohol or fizz</MenuItem>
      {others.map((d) => (
        <MenuItem key={d.id} value={`drink:${d.id}`}>
          like {d.name}
        </MenuItem>
      ))}
    </TextField>
  );
}

function OtherTargets({ editor, aiming }: { editor: Editor; aiming: Aiming }) {
  const profile = editor.store.getState().shown?.report.profile;
  if (!profile) return null;
  const fields = [
    ["volume_ml", "Total volume, ml", profile.volume_ml.toFixed(0), "millilitres"],
    ["brix", "Sugar, °Bx", profile.brix.toFixed(1), "number"],
    ["alcohol", "Alcohol, % vol", profile.alcohol_percent.toFixed(1), "number"],
    ["fizz", "Fizz, volumes", profile.fizz_volumes.toFixed(1), "number"],
  ] as const;
  return (
    <Box sx={{ display: "grid", gridTemplateColumns: "1fr 1fr", gap: 1 }}>
      {fields.map(([key, label, now, kind]) => (
        <TypedField
          key={key}
          label={label}
          placeholder={now}
          value={String(aiming.others[key] ?? "")}
          onType={async (text) => {
            const others = { ...aiming.others };
            delete others[key];
            if (text) {
              const { number, wrong } = await numberIn(kind, text);
              if (wrong) return wrong;
              others[key] = number;
            }
            aiming.set({ others });
            return undefined;
          }}
        />
      ))}
    </Box>
  );
}

/** What would move, before it is taken. */
function Proposal({ editor, aiming }: { editor: Editor; aiming: Aiming }) {
  const [exact, setExact] = useState(false);
  const solution = aiming.solution!;
  const taste = exact ? solution.taste : solution.rounded_taste;
  const take = () => {
    const next = exact ? solution.drink : solution.rounded;
    editor.edit((drink) => ({ ...drink, steps: next.steps }));
    aiming.clear();
  };
  return (
    <Box role="region" aria-label="Worked out" sx={{ display: "grid", gap: 1 }}>
      {!solution.reached && (
        <Box
          sx={{
            bgcolor: colour("notice"),
            color: colour("onNotice"),
            p: 1.25,
            borderRadius: "10px",
            fontSize: 14,
          }}
        >
          <strong>This is the closest match.</strong> {solution.stops.join(" ")}
        </Box>
      )}
      {solution.moved.length === 0 ? (
        <Box sx={{ fontSize: 14 }}>No changes needed.</Box>
      ) : (
        <Box component="ul" sx={{ listStyle: "none", m: 0, p: 0, fontSize: 14 }}>
          {solution.moved.map((m) => (
            <Box
              component="li"
              key={m.step}
              sx={{
                display: "flex",
                flexWrap: "wrap",
                justifyContent: "space-between",
                columnGap: 1,
                py: 0.5,
                borderBottom: `1px solid ${colour("hairline")}`,
              }}
            >
              {m.name}
              <Box sx={{ color: colour("muted") }}>
                {m.from} →{" "}
                <Box component="span" sx={{ color: colour("ink"), fontWeight: 700 }}>
                  {m.to}
                </Box>
              </Box>
            </Box>
          ))}
        </Box>
      )}
      <Box sx={{ fontSize: 14, color: colour("muted") }} data-figure="solved">
        {taste.sweetness_percent.toFixed(1)} g, {taste.acidity_percent.toFixed(2)} %,{" "}
        {volume(taste.ready_ml)}
      </Box>
      <Button variant="contained" onClick={take} disabled={solution.moved.length === 0}>
        Use these amounts
      </Button>
      <Box sx={{ display: "flex", justifyContent: "space-between" }}>
        <Button aria-pressed={exact} onClick={() => setExact(!exact)} sx={{ px: 0, minWidth: 0 }}>
          {exact ? "Round to kitchen measures" : "Leave unrounded"}
        </Button>
        <Button onClick={() => aiming.set({})} sx={{ minWidth: 0 }}>
          Back
        </Button>
      </Box>
    </Box>
  );
}
