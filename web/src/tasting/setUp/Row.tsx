import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Checkbox from "@mui/material/Checkbox";
import FormControlLabel from "@mui/material/FormControlLabel";
import TextField from "@mui/material/TextField";
import { useState } from "react";
import { useSearchParams } from "react-router";
import { useQuestion } from "../../api/ask";
import { answer, api, type Schemas } from "../../api/client";
import {
  findIngredients,
  offered,
  useDrinksToChoose,
  useIngredients,
  useSettings,
} from "../../api/queries";
import { colour } from "../../ui/theme";
import { volume } from "../../ui/format";
import { useSettled } from "../../ui/useSettled";
import { useDrink, WhichDrink, WhoTastes } from "../choose";
import { useTasters } from "../queries";
import { RowPicture } from "../RowPicture";
import { SheetTable } from "../SheetTable";
import { Few, Room, Title } from "../Table";
import { ends, glassesInWords } from "../words";
import { Begin, Choices, Line, TwoColumns, useSetUp } from "./parts";
import { keys } from "../../api/keys";

const rows = [
  ["sugar", "sugar"],
  ["acid", "acid"],
  ["strength", "water"],
  ["steep", "the steeped ingredient"],
  ["spirit", "alcohol"],
  ["sweetener", "which sweetener"],
  ["souring", "the sour ingredient"],
] as const;

const usualKinds = {
  sweetener: ["white_sugar", "honey", "agave_syrup"],
  souring: ["lemon_juice", "lime_juice", "citric_acid"],
};

/** A row of glasses that differ in one thing; also one that is put in order. */
export function Row() {
  const [params] = useSearchParams();
  const order = params.get("order") !== null;
  const { settings } = useSettings();
  const [drinkId, setDrink] = useState(params.get("drink") ?? "");
  const [what, setWhat] = useState<(typeof rows)[number][0]>("sugar");
  const [glasses, setGlasses] = useState(5);
  const [step, setStep] = useState(Number(params.get("step")) || 1.25);
  const [sample, setSample] = useState(60);
  const [tasters, setTasters] = useState<string[]>([]);
  const [blind, setBlind] = useState(true);
  const [own, setOwn] = useState(usualKinds);
  const brought = Number(params.get("middle"));
  const [middle, setMiddle] = useState<"drink" | "best">(brought > 0 ? "best" : "drink");
  const { data: everybody } = useTasters();
  const { data: drink } = useDrink(drinkId);
  const { data: shelf } = useDrinksToChoose();
  const { begin, wrong, waits } = useSetUp();
  const kinds = what === "sweetener" || what === "souring" ? own[what] : undefined;
  const moves = (kinds ? { [what]: kinds } : what) as Schemas["Moves"];
  // Where those at the table like it best, as far as that is known; or where the last row pointed.
  const known = everybody
    ?.filter((view) => tasters.includes(view.id))
    .flatMap((view) => view.ideals.filter((ideal) => ideal.family === drink?.family));
  const guess =
    brought > 0
      ? brought
      : known && known.length > 0
        ? Math.exp(known.reduce((sum, ideal) => sum + ideal.ideal.x, 0) / known.length)
        : undefined;
  const byRatio = what === "sugar" || what === "acid";
  const row: Schemas["Row"] | undefined = drink && {
    drink,
    middle: byRatio && middle === "best" && guess ? guess : null,
    moves,
    glasses: kinds ? kinds.length : glasses,
    step,
    sample_ml: sample,
    tasters: Math.max(tasters.length, 1),
    units: settings.units ?? "as_written",
  };
  const asked = useSettled(row, 200);
  const { data: sheet, error } = useQuestion(
    keys.row(asked),
    (signal) => answer(api.POST("/api/compute/row", { body: asked!, signal })),
    asked !== undefined,
  );
  const can = row !== undefined && tasters.length > 0 && !waits && !error;
  const name = `${glassesInWords(row?.glasses ?? glasses)}, ${ends(moves)}`;
  return (
    <Room>
      <Title under="Glasses of one drink that differ in one thing, poured from two jugs.">
        {order ? "Glasses to sort" : "A row of glasses"}
      </Title>
      <TwoColumns left="minmax(340px, 460px)">
        <Choices>
          <Line label="Which drink?">
            <WhichDrink label="Drink" chosen={drinkId} onChoose={setDrink} />
          </Line>
          <Line label="What varies?">
            <Few
              label="What varies"
              options={order ? rows.slice(0, 5) : rows}
              chosen={what}
              onChoose={setWhat}
            />
          </Line>
          {kinds && (
            <Kinds
              of={what as "sweetener" | "souring"}
              chosen={kinds}
              onChoose={(ids) => setOwn({ ...own, [what]: ids })}
            />
          )}
          {!kinds && (
            <Line label="How many glasses?">
              <Few
                label="How many glasses"
                options={[3, 4, 5, 6, 7].map((n) => [n, String(n)] as const)}
                chosen={glasses}
                onChoose={setGlasses}
              />
            </Line>
          )}
          <Line label="Who is tasting?">
            <WhoTastes chosen={tasters} onChoose={setTasters} />
          </Line>
          {byRatio && guess !== undefined && (
            <Line label="The middle glass?">
              <Few
                label="The middle glass"
                options={[
                  ["drink", "as the drink is now"],
                  ["best", `what they like, ${guess.toFixed(0)} to 1`],
                ]}
                chosen={middle}
                onChoose={setMiddle}
              />
            </Line>
          )}
          <Box sx={{ display: "flex", flexWrap: "wrap", gap: 2, alignItems: "center" }}>
            {!kinds && (
              <TextField
                select
                size="small"
                label="From glass to glass"
                value={step}
                onChange={(event) => setStep(Number(event.target.value))}
                slotProps={{ select: { native: true } }}
                sx={{ minWidth: 150 }}
              >
                {[1.12, 1.15, 1.25, 1.4, 1.6].map((s) => (
                  <option key={s} value={s}>
                    {Math.round((s - 1) * 100)} % more
                  </option>
                ))}
              </TextField>
            )}
            <TextField
              select
              size="small"
              label="In a glass"
              value={sample}
              onChange={(event) => setSample(Number(event.target.value))}
              slotProps={{ select: { native: true } }}
            >
              {[30, 60, 90, 120].map((ml) => (
                <option key={ml} value={ml}>
                  {volume(ml)}
                </option>
              ))}
            </TextField>
            {!order && (
              <FormControlLabel
                control={
                  <Checkbox checked={blind} onChange={(event) => setBlind(event.target.checked)} />
                }
                label="Blind"
              />
            )}
          </Box>
          {!blind && !order && (
            <Box sx={{ color: colour("muted") }}>
              Knowing what's in a glass biases the taster, so the result is weaker.
            </Box>
          )}
          <Begin
            act="Set it up"
            missing={
              drinkId === "" ? "Choose a drink." : tasters.length === 0 && "Choose the tasters."
            }
            can={can}
            wrong={error?.message ?? wrong}
            onBegin={() =>
              row &&
              begin({
                name: drink ? `${drink.name}: ${name.toLowerCase()}` : name,
                what: order ? { order: row } : { ladder: row },
                tasters,
                blind: blind || order,
              })
            }
          />
        </Choices>
        <Box sx={{ minWidth: 0 }}>
          <RowPicture
            shares={
              kinds ? kinds.map(() => 1) : Array.from({ length: glasses }, (_, i) => step ** i)
            }
            words={ends(moves)}
            liquid={shelf?.drinks.find((d) => d.id === drinkId)?.colour ?? undefined}
          />
          {sheet && drinkId !== "" && !error && <SheetTable ladder={sheet} brief />}
          {drinkId === "" && (
            <Box sx={{ color: colour("muted"), fontSize: 17 }}>
              Choose a drink to see what you need and how to pour each glass.
            </Box>
          )}
        </Box>
      </TwoColumns>
    </Room>
  );
}

function Kinds(props: {
  of: "sweetener" | "souring";
  chosen: string[];
  onChoose: (ids: string[]) => void;
}) {
  const { of, chosen, onChoose } = props;
  const { data: all } = useIngredients();
  const [find, setFind] = useState("");
  const fits = offered(all ?? []).filter((it) =>
    of === "sweetener" ? it.kind === "sweetener" : it.kind === "acid" || it.kind === "juice",
  );
  const found = find.trim() ? findIngredients(fits, find).slice(0, 6) : [];
  const name = (id: string) => all?.find((it) => it.id === id)?.name ?? id;
  return (
    <Line label="Which?">
      <Box sx={{ display: "flex", flexWrap: "wrap", gap: 1 }}>
        {chosen.map((id) => (
          <Button
            key={id}
            variant="outlined"
            onClick={() => onChoose(chosen.filter((c) => c !== id))}
            aria-label={`Leave out ${name(id)}`}
          >
            {name(id)} ×
          </Button>
        ))}
      </Box>
      {chosen.length < 7 && (
        <TextField
          size="small"
          label="One more"
          value={find}
          onChange={(event) => setFind(event.target.value)}
          sx={{ maxWidth: 320 }}
        />
      )}
      <Box sx={{ display: "flex", flexWrap: "wrap", gap: 1 }}>
        {found
          .filter((it) => !chosen.includes(it.id))
          .map((it) => (
            <Button
              key={it.id}
              onClick={() => {
                onChoose([...chosen, it.id]);
                setFind("");
              }}
            >
              {it.name}
            </Button>
          ))}
      </Box>
    </Line>
  );
}
