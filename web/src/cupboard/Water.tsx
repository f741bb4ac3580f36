import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import { useState } from "react";
import { answer, api, type Schemas } from "../api/client";
import { useKitchen } from "../api/queries";
import { colour, displayFont } from "../ui/theme";
import { useRead } from "../ui/reading";

type Asked = Schemas["WaterAsked"];
type Found = Schemas["WaterAnswer"];

const units: Record<Schemas["Alkalinity"], string> = {
  hydrogen_carbonate: "mg/l hydrogen carbonate (HCO₃)",
  calcium_carbonate: "mg/l calcium carbonate (ppm)",
  german_degrees: "°dH carbonate hardness",
  french_degrees: "°fH carbonate hardness",
  millimoles: "mmol/l alkalinity",
};

/** Waters that one can have instead, mg of hydrogen carbonate in a litre. */
const usual: [string, number][] = [
  ["Filtered, rain or very soft", 15],
  ["Soft tap water", 60],
  ["Medium tap water", 160],
  ["Hard tap water", 280],
  ["Very hard tap water", 400],
];

/** This kitchen's water: how much of a drink's acid it takes, from a sheet or by trying it. */
export function Water() {
  const { kitchen, change } = useKitchen();
  const [unit, setUnit] = useState<Schemas["Alkalinity"]>("hydrogen_carbonate");
  const [value, setValue] = useState("");
  const [grams, setGrams] = useState("1");
  const [ph, setPh] = useState("");
  const [found, setFound] = useState<Found | undefined>();
  const [wrong, setWrong] = useState<string | undefined>();
  const read = {
    value: useRead("number", value),
    grams: useRead("grams", grams),
    ph: useRead("number", ph),
  };
  const now = kitchen.water?.hydrogen_carbonate;
  const workOut = async (asked: Asked) => {
    setWrong(undefined);
    try {
      setFound(await answer(api.POST("/api/compute/water", { body: asked })));
    } catch (error) {
      setFound(undefined);
      setWrong((error as Error).message);
    }
  };
  const use = async (water: Found["water"] | undefined) => {
    setWrong(await change((k) => ({ ...k, water })));
    setFound(undefined);
  };
  const row = { display: "flex", flexWrap: "wrap", gap: 1.5, alignItems: "flex-start" } as const;
  const heading = { ...displayFont, fontSize: 18, fontWeight: 700, m: 0, mt: 2 } as const;
  return (
    <Box sx={{ maxWidth: 680, display: "grid", gap: 1.5 }}>
      <Box sx={{ fontSize: 16 }}>
        Hard water neutralises some of the acid of a lemonade and turns hibiscus towards violet.
        Enter its figures here, and every drink takes them into account.
      </Box>
      <Box role="status" aria-label="Your water" sx={{ fontSize: 17 }}>
        {now === undefined ? (
          "No figure yet: we assume pure water."
        ) : (
          <>
            Your water: <strong>{now.toFixed(0)} mg/l</strong> hydrogen carbonate{" "}
            <Button onClick={() => void use(undefined)}>Reset</Button>
          </>
        )}
      </Box>
      <Box component="h2" sx={heading}>
        From the supplier’s sheet, a test strip or a label
      </Box>
      <Box
        component="form"
        sx={row}
        onSubmit={(event: React.FormEvent) => {
          event.preventDefault();
          void workOut({ sheet: { unit, value: read.value.number } });
        }}
      >
        <TextField
          size="small"
          label="Figure"
          value={value}
          error={read.value.wrong !== undefined}
          helperText={read.value.wrong}
          onChange={(event) => setValue(event.target.value)}
          sx={{ width: 120 }}
        />
        <TextField
          select
          size="small"
          label="Unit"
          value={unit}
          onChange={(event) => setUnit(event.target.value as typeof unit)}
          sx={{ minWidth: 260 }}
        >
          {Object.entries(units).map(([key, name]) => (
            <MenuItem key={key} value={key}>
              {name}
            </MenuItem>
          ))}
        </TextField>
        <Button type="submit" variant="outlined" disabled={!Number.isFinite(read.value.number)}>
          Work it out
        </Button>
      </Box>
      <Box component="h2" sx={heading}>
        Or try it with citric acid and a pH meter
      </Box>
      <Box
        component="form"
        sx={row}
        onSubmit={(event: React.FormEvent) => {
          event.preventDefault();
          void workOut({ acid: { citric_g: read.grams.number, ph: read.ph.number } });
        }}
      >
        <TextField
          size="small"
          label="Citric acid in 1 l, g"
          value={grams}
          onChange={(event) => setGrams(event.target.value)}
          sx={{ width: 170 }}
        />
        <TextField
          size="small"
          label="pH you read"
          value={ph}
          onChange={(event) => setPh(event.target.value)}
          sx={{ width: 130 }}
        />
        <Button type="submit" variant="outlined" disabled={!Number.isFinite(read.ph.number)}>
          Work out from pH
        </Button>
      </Box>
      {found && (
        <Box role="status" sx={{ bgcolor: colour("wash"), borderRadius: "12px", p: 1.75 }}>
          <strong>
            {(found.water.hydrogen_carbonate ?? 0).toFixed(0)} mg/l hydrogen carbonate.
          </strong>{" "}
          {found.message}{" "}
          <Button variant="contained" onClick={() => void use(found.water)}>
            Use for my drinks
          </Button>
        </Box>
      )}
      {wrong && (
        <Box role="alert" sx={{ color: colour("stop") }}>
          {wrong}
        </Box>
      )}
      <Box component="h2" sx={heading}>
        Or choose roughly
      </Box>
      <Box sx={row}>
        {usual.map(([name, hydrogen_carbonate]) => (
          <Button
            key={name}
            variant="outlined"
            aria-pressed={now === hydrogen_carbonate}
            onClick={() => void use({ hydrogen_carbonate })}
          >
            {name}
          </Button>
        ))}
      </Box>
    </Box>
  );
}
