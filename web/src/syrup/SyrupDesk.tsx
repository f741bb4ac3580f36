import Box from "@mui/material/Box";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import { useState } from "react";
import { useQuestion } from "../api/ask";
import { answer, api, type CallFailed, type Syrup, type SyrupAsked } from "../api/client";
import { useIngredients } from "../api/queries";
import { colour } from "../ui/theme";
import { Figure } from "../ui/Figure";
import { depth, span, temperatureParts, volume, volumeParts, weight } from "../ui/format";
import { Trouble } from "../ui/Trouble";
import { PageTitle } from "../ui/PageTitle";
import { useRead } from "../ui/reading";
import { Worktop } from "./Worktop";
import look from "./Worktop.module.css";
import { keys } from "../api/keys";

/** Everything about a syrup of sugar and water, at once. */
export default function SyrupDesk() {
  const { data: all = [] } = useIngredients();
  const [form, setForm] = useState({
    sugar: "white_sugar",
    amount: "500 g",
    parts: "1",
    by: "by_weight" as "by_weight" | "by_volume",
    reduce: "",
    pot: depth(200),
    back: "",
  });
  const set = (part: Partial<typeof form>) => setForm({ ...form, ...part });
  const read = {
    amount: useRead("amount", form.amount),
    parts: useRead("number", form.parts),
    reduce: useRead("number", form.reduce),
    pot: useRead("millimetres", form.pot),
    back: useRead("millilitres", form.back),
  };
  const optional = (key: "reduce" | "back") => (form[key].trim() ? read[key].number : null);
  const parts = read.parts.number;
  const reduce = optional("reduce");
  const back = optional("back");
  const asked: SyrupAsked = {
    sugar: form.sugar,
    amount: read.amount.text ?? "",
    proportion: form.by === "by_weight" ? { by_weight: parts } : { by_volume: parts },
    reduce_to: reduce,
    pot_mm: read.pot.number,
    back_to: back === null ? null : `${back} ml`,
  };
  // Nothing is worked out from what isn't understood.
  const understood =
    read.amount.text !== undefined &&
    ![parts, read.pot.number, reduce, back].some((number) => Number.isNaN(number));
  const { data, error, again } = useQuestion(
    keys.syrup(asked),
    (signal) => answer(api.POST("/api/compute/syrup", { body: asked, signal })),
    understood,
  );
  const refused = refusedAt(error);
  const sugars = all
    .filter((it) => it.sweetness_percent > 40 && it.form !== "pieces")
    .sort((a, b) => a.name.localeCompare(b.name));
  const text = (key: keyof typeof read, label: string, hint = "") => (
    <TextField
      size="small"
      label={label}
      value={form[key]}
      placeholder={hint}
      error={(read[key].wrong ?? refused[key]) !== undefined}
      helperText={read[key].wrong ?? refused[key] ?? read[key].understood}
      slotProps={{ formHelperText: refused[key] ? { role: "alert" } : {} }}
      onChange={(event) => set({ [key]: event.target.value })}
    />
  );
  return (
    <Box component="main" sx={{ px: { xs: 2, md: 3.5 }, pb: 4, flex: 1, minWidth: 0 }}>
      <PageTitle mb={2}>Syrup desk</PageTitle>
      <Box
        sx={{
          display: "grid",
          gridTemplateColumns: { xs: "minmax(0, 1fr)", md: "300px minmax(0, 1fr)" },
          gap: { xs: 3, md: 5 },
          alignItems: "start",
        }}
      >
        <Box component="form" aria-label="The syrup" sx={{ display: "grid", gap: 1.75 }}>
          <TextField
            select
            size="small"
            label="Sweetener"
            value={sugars.length ? form.sugar : ""}
            onChange={(event) => set({ sugar: event.target.value })}
          >
            {sugars.map((it) => (
              <MenuItem key={it.id} value={it.id}>
                {it.name}
              </MenuItem>
            ))}
          </TextField>
          {text("amount", "Amount")}
          <Box sx={{ display: "grid", gridTemplateColumns: "1fr 1fr", gap: 1.5 }}>
            {text("parts", "Parts to 1 part water")}
            <TextField
              select
              size="small"
              label="Measured"
              value={form.by}
              onChange={(event) => set({ by: event.target.value as typeof form.by })}
            >
              <MenuItem value="by_weight">by weight</MenuItem>
              <MenuItem value="by_volume">by volume</MenuItem>
            </TextField>
          </Box>
          {text("reduce", "Reduce to, °Bx", "not at all")}
          {text("pot", "Pot diameter")}
          {text("back", "Dilute back to", "500 ml")}
          <Trouble error={Object.keys(refused).length > 0 ? undefined : error} again={again} />
        </Box>
        {data && (
          <Result
            syrup={data}
            pot={asked.pot_mm ?? 200}
            reduced={reduce || undefined}
            onReduce={(brix) => set({ reduce: brix === undefined ? "" : String(brix) })}
          />
        )}
      </Box>
    </Box>
  );
}

/** Which field holds what the core asks of. */
const fields = {
  amount: "amount",
  proportion: "parts",
  reduce_to: "reduce",
  pot_mm: "pot",
  back_to: "back",
} as const;

/** What is wrong, at the fields that it is about. */
function refusedAt(error: Error | undefined) {
  const problem = (error as CallFailed | undefined)?.problem;
  const wrong: Partial<Record<(typeof fields)[keyof typeof fields], string>> = {};
  for (const { field, message } of problem?.errors ?? []) {
    const name = field.split(".")[0] as keyof typeof fields;
    if (fields[name]) wrong[fields[name]] = message;
  }
  return wrong;
}

interface ResultProps {
  syrup: Syrup;
  pot: number;
  reduced: number | undefined;
  onReduce: (brix: number | undefined) => void;
}

function Result({ syrup, pot, reduced, onReduce }: ResultProps) {
  const [glass, setGlass] = useState(10);
  const made = volumeParts(syrup.volume_ml);
  const boils = temperatureParts(syrup.boils_at, 1);
  const crystals = syrup.crystallises_at_4
    ? syrup.crystallises_at_20
      ? "Crystals form, on the worktop as in the refrigerator. Less sugar, or some acid while it is hot, keeps it clear."
      : "Clear on the worktop; in the refrigerator crystals form."
    : "Stays clear, in the refrigerator too.";
  return (
    <Box role="region" aria-label="Result" sx={{ display: "grid", gap: 2.5, minWidth: 0 }}>
      <Worktop syrup={syrup} pot={pot} reduced={reduced} onReduce={onReduce} glass={glass} />
      <Box
        sx={{
          display: "grid",
          gridTemplateColumns: "repeat(auto-fill, minmax(104px, 1fr))",
          gap: 2,
        }}
      >
        <Figure name="syrup-brix" value={syrup.brix.toFixed(1)} unit="°Bx" label="strength" />
        <Figure name="syrup-volume" value={made.figure} unit={made.unit} label="makes, at 20 °C" />
        <Figure name="syrup-sugar" value={weight(syrup.sugar_g)} label={syrup.sugar_text} />
        <Figure name="syrup-water" value={weight(syrup.water_g)} label="water at first" />
        <Figure name="syrup-boils" value={boils.figure} unit={boils.unit} label="boils at" />
        <Figure
          name="syrup-density"
          value={syrup.density.toFixed(3)}
          unit="g/ml"
          label="a millilitre"
        />
        <Figure name="syrup-aw" value={syrup.water_activity.toFixed(2)} label="water activity" />
      </Box>
      {syrup.boiled_away_g > 0.5 && (
        <Box sx={{ fontSize: 15 }}>
          <strong>{weight(syrup.boiled_away_g)}</strong> water must boil off: about{" "}
          <strong>{span(syrup.minutes)}</strong> (est., half to double).
          {syrup.water_line_mm != null && (
            <>
              {" "}
              The level is then <strong>{depth(syrup.water_line_mm)}</strong> above the bottom of
              the pot.
            </>
          )}
        </Box>
      )}
      {syrup.water_back_ml != null && (
        <Box>
          {syrup.water_back_ml < 0.5
            ? "There is already at least that much."
            : `${volume(syrup.water_back_ml)} of water, or ${syrup.ice_back_g?.toFixed(0)} g of ice, bring it back to that.`}
        </Box>
      )}
      <Box sx={{ bgcolor: colour("wash"), borderRadius: "10px", p: 1.5, fontSize: 15 }}>
        {crystals} {syrup.notices.join(" ")}
      </Box>
      <Box sx={{ overflowX: "auto" }}>
        <table className={look.glasses}>
          <caption>For a glass of {volume(250)}, with water or soda</caption>
          <thead>
            <tr>
              {["as sweet as", "syrup", "water", "parts"].map((head) => (
                <th scope="col" key={head}>
                  {head}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {syrup.dilutions.map((d) => (
              <tr key={d.sweetness} data-shown={d.sweetness === glass}>
                <th scope="row">
                  <label>
                    <input
                      type="radio"
                      name="glass"
                      checked={d.sweetness === glass}
                      onChange={() => setGlass(d.sweetness)}
                    />
                    {d.sweetness} g in 100 g
                  </label>
                </th>
                <td>
                  <b>{volume(d.syrup_ml)}</b>
                </td>
                <td>{volume(d.water_ml)}</td>
                <td>1 to {d.parts.toFixed(1)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </Box>
    </Box>
  );
}
