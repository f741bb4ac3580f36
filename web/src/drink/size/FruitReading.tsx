import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import { useState } from "react";
import { type Schemas } from "../../api/client";
import { explain } from "../../api/compute";
import { useKitchen } from "../../api/queries";
import { colour } from "../../ui/theme";
import { numbersIn } from "../../ui/reading";

type Reading = Schemas["Reading"];

/** "7 limes gave 205 ml": what this kitchen learns of its fruit. */
export function FruitReading({ produce, plural }: { produce: string; plural: string }) {
  const { change } = useKitchen();
  const [form, setForm] = useState({ pieces: "", juice: "", brix: "", acidity: "" });
  const [asked, setAsked] = useState<
    { found: Schemas["FruitLesson"]; reading: Reading } | undefined
  >();
  const [said, setSaid] = useState<string | undefined>();
  const [canUndo, setCanUndo] = useState(false);
  /** What stands in the fields when it is saved, however fast that was. */
  const read = async (): Promise<Reading | string> => {
    const { numbers, wrong } = await numbersIn([form.pieces, form.juice, form.brix, form.acidity]);
    if (wrong) return wrong;
    const [pieces, juice, brix, acidity] = numbers;
    return {
      produce,
      pieces: pieces ?? 0,
      juice_ml: juice ?? 0,
      brix: brix ?? null,
      acidity: acidity ?? null,
      day: new Date().toISOString().slice(0, 10),
    };
  };
  const keep = async (answer: Schemas["FruitLesson"], reading: Reading) => {
    const wrong = await change((k) => ({ ...k, readings: [...(k.readings ?? []), reading] }));
    setSaid(wrong ?? answer.message);
    setCanUndo(!wrong);
    setAsked(undefined);
    if (!wrong) setForm({ pieces: "", juice: "", brix: "", acidity: "" });
  };
  const look = async () => {
    setSaid(undefined);
    setCanUndo(false);
    const reading = await read();
    if (typeof reading === "string") return setSaid(reading);
    try {
      const found = await explain({ of: "fruit", ...reading });
      if (found.doubtful) setAsked({ found, reading });
      else await keep(found, reading);
    } catch (error) {
      setSaid((error as Error).message);
    }
  };
  const fields = [
    ["pieces", `Number of ${plural}`],
    ["juice", "gave, ml"],
    ["brix", "Sugar reading, °Bx (optional)"],
    ["acidity", "acid, % (optional)"],
  ] as const;
  return (
    <Box
      component="form"
      className="no-print"
      aria-label={`What ${plural} gave`}
      onSubmit={(event: React.FormEvent) => {
        event.preventDefault();
        void look();
      }}
      sx={{ display: "flex", flexWrap: "wrap", gap: 1, mt: 1.5, alignItems: "center" }}
    >
      {fields.map(([key, label]) => (
        <TextField
          key={key}
          size="small"
          label={label}
          value={form[key]}
          onChange={(event) => setForm({ ...form, [key]: event.target.value })}
          slotProps={{ htmlInput: { inputMode: "decimal" } }}
          sx={{ width: 138 }}
        />
      ))}
      <Button type="submit" variant="outlined" disabled={!form.pieces.trim() || !form.juice.trim()}>
        Save
      </Button>
      {asked && (
        <Box
          role="alert"
          sx={{
            flexBasis: "100%",
            bgcolor: colour("notice"),
            color: colour("onNotice"),
            p: 1.25,
            borderRadius: "10px",
            fontSize: 14,
          }}
        >
          {asked.found.message}
          <Box sx={{ display: "flex", gap: 1, mt: 0.5 }}>
            <Button color="inherit" onClick={() => void keep(asked.found, asked.reading)}>
              Keep it
            </Button>
            <Button color="inherit" onClick={() => setAsked(undefined)}>
              Measure again
            </Button>
          </Box>
        </Box>
      )}
      {said && (
        <Box role="status" sx={{ flexBasis: "100%", fontSize: 14 }}>
          {said}
          {canUndo && (
            <Button
              onClick={async () => {
                await change((k) => ({ ...k, readings: (k.readings ?? []).slice(0, -1) }));
                setCanUndo(false);
                setSaid("Undone.");
              }}
            >
              Undo
            </Button>
          )}
        </Box>
      )}
    </Box>
  );
}
