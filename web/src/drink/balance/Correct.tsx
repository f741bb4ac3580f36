import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import { useState } from "react";
import { useAsked } from "../../api/ask";
import {
  answer,
  api,
  asking,
  type Asked,
  type Correction,
  type Drink,
  type DrinkReport,
  type Remedy,
  type Schemas,
  type Spot,
} from "../../api/client";
import { colour, displayFont } from "../../ui/theme";
import { TitledDialog } from "../../ui/TitledDialog";
import { volume } from "../../ui/format";
import { insertStep } from "../editing/changes";
import type { Editor } from "../editing/editor";
import { Feel } from "./Feel";
import { doubts, type Felt } from "./feel";
import { useTasters } from "./useDrinkers";
import { numberIn } from "../../ui/reading";

interface CorrectProps {
  editor: Editor;
  drink: Drink;
  report: DrinkReport;
  ring: Spot | undefined;
  onClose: () => void;
}

/** A pitcher that tastes wrong: what it tastes like, and what it needs. */
export default function Correct({ editor, drink, report, ring, onClose }: CorrectProps) {
  const holders = report.vessels.filter((v) => !v.strains && v.kind !== "glass" && v.fullest);
  const pitcher = holders.findLast((v) => v.kind === "pitcher") ?? holders.at(-1);
  const [source, setSource] = useState(pitcher?.id ?? "");
  const [read, setRead] = useState({
    volume: "1.5 l",
    holds: "2 l",
    brix: "",
    acidity: "",
    ph: "",
  });
  const [felt, setFelt] = useState<Felt>({});
  const [wanted, setWanted] = useState<"words" | "ring">("words");
  const [whom, setWhom] = useState("");
  const { data: tasters } = useTasters();
  const forWhom = tasters?.find((view) => view.id === whom)?.taster;
  const { found, wrong, ask, forget } = useAsked<Correction, Drink>(drink);

  const look = () =>
    ask(async (signal, drink) => {
      const body = await asked(drink);
      return answer(api.POST("/api/compute/correct", { body, headers: asking("correct"), signal }));
    });
  const asked = async (drink: Drink): Promise<Asked> => {
    const number = async (text: string) => {
      if (source || text.trim() === "") return null;
      const { number, wrong } = await numberIn("number", text);
      if (wrong) throw new Error(wrong);
      return number;
    };
    const aimed = wanted === "ring" && ring;
    return {
      pitcher: source
        ? { traced: { drink, vessel: source, step: lastStepWith(report, source) ?? null } }
        : {
            read: {
              volume: read.volume,
              capacity: read.holds,
              brix: await number(read.brix),
              acidity: await number(read.acidity),
              ph: await number(read.ph),
            },
          },
      sweetness: aimed ? aimed.sweetness : null,
      acidity: aimed ? aimed.acidity : null,
      words: doubts(felt),
      notices: {
        sweetness: forWhom?.notices_sweet?.part ?? null,
        acidity: forWhom?.notices_sour?.part ?? null,
      },
      at_hand: [],
    };
  };
  /** Stirs a remedy into the drink, as steps after the last one that leaves the vessel full. */
  const stirIn = (additions: Remedy["additions"]) => {
    editor.edit((before) => {
      const last = lastStepWith(report, source);
      let at = before.steps.findIndex((step) => step.id === last) + 1;
      if (at === 0) at = before.steps.length;
      return additions.reduce((d, addition) => {
        const add = { into: source, ingredient: addition.ingredient, amount: addition.amount };
        return insertStep(d, at++, { add })[0];
      }, before);
    });
    onClose();
  };
  const anything = Object.keys(felt).length > 0 || (wanted === "ring" && ring);
  return (
    <TitledDialog title="Taste and correct" width={620} onClose={onClose}>
      <TextField
        select
        size="small"
        label="What did you taste?"
        value={source}
        onChange={(event) => {
          setSource(event.target.value);
          forget();
        }}
        slotProps={{ select: { displayEmpty: true } }}
      >
        {holders.map((v) => (
          <MenuItem key={v.id} value={v.id}>
            {v.name}, {volume(v.fullest?.liquid_ml ?? 0)}
          </MenuItem>
        ))}
        <MenuItem value="">Another pitcher</MenuItem>
      </TextField>
      {source === "" && (
        <Box
          sx={{
            display: "grid",
            gridTemplateColumns: { xs: "1fr 1fr", sm: "repeat(5, 1fr)" },
            gap: 1,
          }}
        >
          {(
            [
              ["volume", "Volume you have"],
              ["holds", "Pitcher holds"],
              ["brix", "Sugar reading, °Bx (optional)"],
              ["acidity", "Acid, % (optional)"],
              ["ph", "pH (optional)"],
            ] as const
          ).map(([key, label]) => (
            <TextField
              key={key}
              size="small"
              label={label}
              value={read[key]}
              onChange={(event) => setRead({ ...read, [key]: event.target.value })}
            />
          ))}
        </Box>
      )}
      <Feel
        felt={felt}
        onChange={(next) => {
          forget();
          setFelt(next);
        }}
      />
      {tasters && tasters.some((view) => isKnown(view.taster)) && (
        <TextField
          select
          size="small"
          label="For whom"
          value={whom}
          onChange={(event) => {
            setWhom(event.target.value);
            forget();
          }}
          slotProps={{ select: { displayEmpty: true } }}
        >
          <MenuItem value="">most people</MenuItem>
          {tasters
            .filter((view) => isKnown(view.taster))
            .map((view) => (
              <MenuItem key={view.id} value={view.id}>
                {view.taster.name}, by what they notice
              </MenuItem>
            ))}
        </TextField>
      )}
      {ring && (
        <TextField
          select
          size="small"
          label="Correct it"
          value={wanted}
          onChange={(event) => setWanted(event.target.value as typeof wanted)}
        >
          <MenuItem value="words">a typical amount for these words</MenuItem>
          <MenuItem value="ring">
            to the target: {ring.sweetness.toFixed(1)} g and {ring.acidity.toFixed(2)} %
          </MenuItem>
        </TextField>
      )}
      <Box sx={{ display: "flex", gap: 1, justifyContent: "flex-end" }}>
        <Button onClick={onClose}>Close</Button>
        <Button variant="contained" disabled={!anything} onClick={() => void look()}>
          Suggest corrections
        </Button>
      </Box>
      {wrong && (
        <Box role="alert" sx={{ color: colour("stop") }}>
          {wrong}
        </Box>
      )}
      {found && <Found found={found} onStirIn={source ? stirIn : undefined} />}
    </TitledDialog>
  );
}

/** Whether it was found out how small a difference somebody notices. */
function isKnown(taster: Schemas["Taster"]): boolean {
  return taster.notices_sweet != null || taster.notices_sour != null;
}

function Found({
  found,
  onStirIn,
}: {
  found: Correction;
  onStirIn: ((additions: Remedy["additions"]) => void) | undefined;
}) {
  return (
    <Box role="status" sx={{ display: "grid", gap: 1.25 }}>
      <Box sx={{ fontSize: 14, color: colour("muted") }}>
        Now {found.sweetness_now.toFixed(1)} g and {found.acidity_now.toFixed(2)} % in{" "}
        {volume(found.volume_ml)}; wanted {found.sweetness_wanted.toFixed(1)} g and{" "}
        {found.acidity_wanted.toFixed(2)} %.
      </Box>
      {found.leave_it && (
        <Box sx={{ bgcolor: colour("wash"), borderRadius: "10px", p: 1.5 }}>{found.leave_it}</Box>
      )}
      {found.ways.map((way, i) => (
        <Box
          key={way.additions.map((a) => a.ingredient).join()}
          sx={{ border: `1.5px solid ${colour("hairline")}`, borderRadius: "12px", p: 1.5 }}
        >
          {way.pour_aside_ml > 0 && (
            <Box>
              Pour off <strong>{volume(way.pour_aside_ml)}</strong> first.
            </Box>
          )}
          <Box sx={{ ...displayFont, fontSize: 17, fontWeight: 700 }} data-way={i}>
            {way.additions.map((a) => `${a.amount} ${a.name.toLowerCase()}`).join(" + ")}
          </Box>
          <Box sx={{ fontSize: 14, color: colour("muted") }}>
            makes {volume(way.volume_ml)} at {way.sweetness.toFixed(1)} g and{" "}
            {way.acidity.toFixed(2)} %{!way.reached && "; closer, but not there yet"}
          </Box>
          {way.caution && <Box sx={{ fontSize: 14, mt: 0.5 }}>{way.caution}</Box>}
          {onStirIn && (
            <Button onClick={() => onStirIn(way.additions)} sx={{ px: 0, minWidth: 0 }}>
              Add this to the drink
            </Button>
          )}
        </Box>
      ))}
      {found.advice.map(({ says, adds }) => (
        <Box key={says} sx={{ borderTop: `1px solid ${colour("hairline")}`, pt: 1 }}>
          {says}
          {adds && onStirIn && (
            <Box>
              <Button onClick={() => onStirIn([adds])} sx={{ px: 0, minWidth: 0 }}>
                Add this to the drink
              </Button>
            </Box>
          )}
        </Box>
      ))}
    </Box>
  );
}

/** The last step after which a vessel still holds its drink. */
function lastStepWith(report: DrinkReport, vessel: string): string | undefined {
  const most = report.vessels.find((v) => v.id === vessel)?.fullest?.liquid_ml ?? 0;
  return report.frames.findLast((f) =>
    f.states.some((s) => s.vessel === vessel && s.liquid_ml > most * 0.5),
  )?.step;
}
