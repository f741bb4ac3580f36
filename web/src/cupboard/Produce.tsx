import Box from "@mui/material/Box";
import TextField from "@mui/material/TextField";
import { useState } from "react";
import type { Produce as Fruit, Schemas } from "../api/client";
import { useKitchen, useProduce } from "../api/queries";
import { DeleteButton } from "../ui/DeleteButton";
import { colour, displayFont } from "../ui/theme";
import { volume } from "../ui/format";
import look from "./Cupboard.module.css";
import { OwnField } from "./OwnField";

/** What is bought by the piece, and what a piece gives here. */
export function Produce() {
  const { data: all = [] } = useProduce();
  const [text, setText] = useState("");
  const [chosen, setChosen] = useState("lemon");
  const words = text.toLowerCase();
  const found = all.filter((p) =>
    [p.name, ...p.gives].join(" ").toLowerCase().includes(words.trim()),
  );
  const it = all.find((p) => p.id === chosen);
  return (
    <div className={look.split}>
      <Box sx={{ minWidth: 0 }}>
        <TextField
          size="small"
          fullWidth
          label="Find produce"
          value={text}
          onChange={(event) => setText(event.target.value)}
          sx={{ mb: 1 }}
        />
        <ul className={look.list} aria-label="Produce">
          {found.map((p) => {
            const usual = p.sizes.find((s) => s.name === "medium") ?? p.sizes[0]!;
            return (
              <li key={p.id}>
                <button
                  type="button"
                  className={p.id === chosen ? `${look.row} ${look.chosen}` : look.row}
                  aria-pressed={p.id === chosen}
                  onClick={() => setChosen(p.id)}
                >
                  <span>{p.name}</span>
                  <span className={look.facts}>
                    {usual.whole_g.toPrecision(3).replace(/\.?0+$/, "")} g
                    {usual.juice_ml != null && ` · ${volume(usual.juice_ml)} juice`}
                  </span>
                </button>
              </li>
            );
          })}
          {found.length === 0 && all.length > 0 && (
            <li className={look.none}>We found no produce called “{text}”.</li>
          )}
        </ul>
      </Box>
      {it && <Detail key={it.id} it={it} />}
    </div>
  );
}

function Detail({ it }: { it: Fruit }) {
  return (
    <Box component="section" aria-label={it.name} className={look.detail}>
      <Box component="h2" sx={{ ...displayFont, fontSize: 24, fontWeight: 700, m: 0 }}>
        {it.name}
      </Box>
      <Box sx={{ color: colour("muted"), fontSize: 14, mb: 1.5 }}>gives {it.gives.join(", ")}</Box>
      {it.sizes.map((size) => (
        <Size key={size.key} size={size} />
      ))}
      <Readings id={it.id} />
    </Box>
  );
}

function Size({ size }: { size: Schemas["SizeView"] }) {
  const { kitchen, change } = useKitchen();
  const own = kitchen.produce?.[size.key] ?? {};
  const set = (key: "whole_g" | "juice_ml" | "zest_g") => (value: number | undefined) => {
    return change((k) => {
      const produce = { ...k.produce };
      const mine = { ...produce[size.key], [key]: value };
      if (Object.values(mine).every((v) => v == null)) delete produce[size.key];
      else produce[size.key] = mine;
      return { ...k, produce };
    });
  };
  const table = size.evidence === "estimate" ? "estimated" : "from the tables";
  return (
    <Box sx={{ borderTop: `1px solid ${colour("hairline")}`, pt: 1.5, pb: 1 }}>
      <Box component="h3" sx={{ fontSize: 15, m: 0, mb: 1 }}>
        {size.name}
      </Box>
      <div className={look.fields}>
        <OwnField
          label="whole piece"
          unit="g"
          value={size.whole_g}
          own={own.whole_g}
          rests={`${table}, ± ${size.whole_sd_g.toFixed(0)}`}
          places={1}
          onSet={set("whole_g")}
        />
        {size.juice_ml != null && (
          <OwnField
            label="juice by hand"
            unit="ml"
            value={size.juice_ml}
            own={own.juice_ml}
            rests={`${table}${size.juice_sd_ml != null ? `, ± ${size.juice_sd_ml.toFixed(0)}` : ""}`}
            places={1}
            onSet={set("juice_ml")}
          />
        )}
        {size.zest_g != null && (
          <OwnField
            label="grated zest"
            unit="g"
            value={size.zest_g}
            own={own.zest_g}
            rests={table}
            places={1}
            onSet={set("zest_g")}
          />
        )}
      </div>
      <Box sx={{ fontSize: 13, color: colour("muted"), mt: 0.5 }}>
        {size.edible_percent.toFixed(0)} % of it is used. {size.source}
        {size.notes && `; ${size.notes}`}
      </Box>
    </Box>
  );
}

/** What this kitchen has read of a fruit; each can be taken back. */
function Readings({ id }: { id: string }) {
  const { kitchen, change } = useKitchen();
  const all = kitchen.readings ?? [];
  const mine = all
    .map((reading, i) => ({ reading, i }))
    .filter(({ reading }) => reading.produce.startsWith(`${id}/`));
  if (mine.length === 0) return null;
  return (
    <Box sx={{ borderTop: `1px solid ${colour("hairline")}`, pt: 1.5 }}>
      <Box component="h3" sx={{ fontSize: 15, m: 0 }}>
        What your fruit gave
      </Box>
      <Box component="ul" sx={{ listStyle: "none", m: 0, p: 0 }}>
        {mine.map(({ reading, i }) => (
          <Box
            component="li"
            key={i}
            sx={{ display: "flex", alignItems: "center", gap: 1, fontSize: 14 }}
          >
            {reading.day}: {reading.pieces} {reading.produce.split("/")[1]} gave {reading.juice_ml}{" "}
            ml
            {reading.brix != null && `, ${reading.brix} °Bx`}
            {reading.acidity != null && `, ${reading.acidity} % acid`}
            <DeleteButton
              label={`Delete the reading of ${reading.day}`}
              onDelete={() =>
                void change((k) => ({
                  ...k,
                  readings: (k.readings ?? []).filter(
                    (r) => JSON.stringify(r) !== JSON.stringify(reading),
                  ),
                }))
              }
              sx={{ px: 1, minWidth: 0, fontSize: 13 }}
            >
              Delete
            </DeleteButton>
          </Box>
        ))}
      </Box>
    </Box>
  );
}
