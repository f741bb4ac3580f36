import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import { useState } from "react";
import type { InstrumentView } from "../api/client";
import { colour, displayFont } from "../ui/theme";
import type { AskingProps } from "./asked";
import { look, putBefore } from "./practice";
import { Sheet, VesselField, vesselOf } from "./Sheet";
import { kinds, measures, shown, tell, useInstruments } from "./useInstruments";
import { quantities, readAs, units } from "./words";
import { degrees } from "../ui/format";
import { numberIn } from "../ui/reading";

/** A reading: taken from an instrument, or typed. */
export function Measure({ view, place, say, onClose }: AskingProps) {
  const { measure } = view.stands;
  const [vessel, setVessel] = useState(measure?.vessel ?? vesselOf(view, place));
  const [quantity, setQuantity] = useState<keyof typeof quantities>(measure?.quantity ?? "brix");
  const [value, setValue] = useState("");
  const [error, setError] = useState("");
  const [wrong, setWrong] = useState<string | undefined>();
  const all = useInstruments(view.practice);
  // The one that would tell most stands first.
  const telling = (one: InstrumentView) =>
    measures[one.kind as keyof typeof measures] === measure?.quantity ? 0 : 1;
  const instruments = [...all].sort((a, b) => telling(a) - telling(b));
  const keep = (what: keyof typeof quantities, read: number, error?: number) => {
    void say({
      reading: {
        vessel,
        quantity: what,
        value: read,
        ...(error === undefined ? {} : { error }),
      },
    });
    onClose();
  };
  const submit = async () => {
    const read = await numberIn(readAs[quantity] ?? "number", value);
    if (read.wrong) return setWrong(read.wrong);
    if (error.trim() === "") return keep(quantity, read.number, undefined);
    const off = await numberIn("number", error);
    if (!(off.number > 0)) return setWrong("Enter an error above 0.");
    keep(quantity, read.number, off.number);
  };
  const byEye = (what: "volume" | "height") =>
    look(view, what === "volume" ? { marks: vessel } : { height: vessel }).then(
      (seen) => {
        setQuantity(what);
        setValue(String(seen.value));
      },
      (fault: Error) => setWrong(fault.message),
    );
  return (
    <Sheet title="Measure" act="Save the reading" onSubmit={submit} onClose={onClose} width={620}>
      <Box sx={{ fontSize: 16 }}>{measure?.message ?? "No need to measure anything now."}</Box>
      <VesselField view={view} value={vessel} onChange={setVessel} />
      {instruments.length > 0 && (
        <Box
          component="ul"
          aria-label="Instruments"
          sx={{ listStyle: "none", m: 0, p: 0, display: "grid" }}
        >
          {instruments.map((one) => (
            <Instrument
              key={one.id}
              one={one}
              onPut={
                view.practice
                  ? () =>
                      putBefore(view, vessel, one).catch((fault: Error) => setWrong(fault.message))
                  : undefined
              }
              onKeep={(read) => keep(measures[one.kind as keyof typeof measures], read)}
            />
          ))}
        </Box>
      )}
      {view.practice && (
        <Box sx={{ display: "flex", flexWrap: "wrap", gap: 1 }}>
          <Button variant="outlined" onClick={() => void byEye("volume")}>
            Read the marks
          </Button>
          <Button variant="outlined" onClick={() => void byEye("height")}>
            Hold the ruler
          </Button>
        </Box>
      )}
      <Box
        sx={{
          display: "grid",
          gridTemplateColumns: { xs: "1fr 130px", sm: "1fr 130px 120px" },
          gap: 1.5,
        }}
      >
        <TextField
          select
          label="What"
          value={quantity}
          onChange={(event) => setQuantity(event.target.value as typeof quantity)}
        >
          {Object.entries(quantities).map(([key, name]) => (
            <MenuItem key={key} value={key}>
              {name}
            </MenuItem>
          ))}
        </TextField>
        <TextField
          label="Reading"
          value={value}
          autoFocus={instruments.length === 0}
          error={wrong !== undefined}
          helperText={wrong}
          onChange={(event) => {
            setValue(event.target.value);
            setWrong(undefined);
          }}
          slotProps={{
            htmlInput: { inputMode: "decimal" },
            input: {
              endAdornment: (
                <Box sx={{ ml: 0.5 }}>
                  {quantity === "temperature" ? degrees() : units[quantity]}
                </Box>
              ),
            },
          }}
        />
        <TextField
          label="Error, ±"
          placeholder="as usual"
          value={error}
          onChange={(event) => setError(event.target.value)}
          slotProps={{ htmlInput: { inputMode: "decimal" } }}
          sx={{ gridColumn: { xs: "1 / -1", sm: "auto" } }}
        />
      </Box>
      {quantity === "acidity" && (
        <Box sx={{ fontSize: 14.5, color: colour("muted") }}>
          The acid kit contains lye, which burns skin and eyes. Wear glasses, keep it away from
          children, rinse spills with plenty of water and discard the sample.
        </Box>
      )}
    </Sheet>
  );
}

interface InstrumentProps {
  one: InstrumentView;
  /** Puts what is in the vessel before it, in the practice kitchen. */
  onPut: (() => void) | undefined;
  onKeep: (read: number) => void;
}

const put = {
  scale: "Weigh",
  thermometer: "Dip in",
  refractometer: "Add a drop",
  ph_meter: "Dip in",
  acid_kit: "Take a sample",
  clock: "",
} as const;

/** One instrument: what it reads, what it says, and what hands do with it. */
function Instrument({ one, onPut, onKeep }: InstrumentProps) {
  const here = one.condition === "here";
  const act = { minWidth: 0, px: 1.25 } as const;
  return (
    <Box
      component="li"
      data-instrument={one.kind}
      sx={{ py: 1, borderTop: `1px solid ${colour("hairline")}` }}
    >
      <Box sx={{ display: "flex", flexWrap: "wrap", alignItems: "center", columnGap: 1.5 }}>
        <Box sx={{ width: 112, fontWeight: 600 }}>{kinds[one.kind]}</Box>
        <Box
          role="status"
          aria-label={`${kinds[one.kind]} reads`}
          sx={{
            ...displayFont,
            fontSize: 22,
            fontWeight: 700,
            minWidth: 118,
            color: colour(here && one.stable ? "ink" : "muted"),
          }}
        >
          {shown(one)}
        </Box>
        <Box sx={{ flex: 1 }} />
        {here && onPut && (
          <Button sx={act} onClick={onPut}>
            {put[one.kind]}
          </Button>
        )}
        {here && onPut && one.kind === "acid_kit" && (
          <>
            {[1, 5].map((count) => (
              <Button
                key={count}
                sx={act}
                aria-label={`${count} ${count === 1 ? "drop" : "drops"} of lye`}
                onClick={() => tell(one, { do: "drop", count })}
              >
                {count} {count === 1 ? "drop" : "drops"}
              </Button>
            ))}
          </>
        )}
        {here && one.kind === "ph_meter" && (
          <>
            {[7, 4.01].map((buffer) => (
              <Button
                key={buffer}
                sx={act}
                aria-label={`Calibrate in pH ${buffer}`}
                onClick={() => tell(one, { do: "calibrate", with: buffer })}
              >
                in {buffer}
              </Button>
            ))}
          </>
        )}
        {here && one.kind === "scale" && (
          <Button sx={act} onClick={() => tell(one, { do: "tare" })}>
            Set to zero
          </Button>
        )}
        <Button
          variant="outlined"
          disabled={!here || one.value == null}
          aria-label={`Keep what the ${kinds[one.kind].replace(/^[SARTC]/, (c) => c.toLowerCase())} reads`}
          onClick={() => one.value != null && onKeep(one.value)}
          sx={act}
        >
          Keep
        </Button>
      </Box>
      <Box sx={{ fontSize: 14, color: colour("muted") }}>
        {[
          one.says,
          here && one.value != null && !one.stable && "the reading hasn't settled",
          one.kind === "acid_kit" &&
            onPut &&
            "weak lye: wear glasses, rinse off splashes, keep away from children",
        ]
          .filter(Boolean)
          .join("; ")}
      </Box>
    </Box>
  );
}
