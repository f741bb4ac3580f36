import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import { useState } from "react";
import { useParams } from "react-router";
import { useQuestion } from "../../api/ask";
import { answer, api, asking, type Drink, type DrinkReport, type Schemas } from "../../api/client";
import { useSettings } from "../../api/queries";
import { colour, displayFont } from "../../ui/theme";
import { useBegin } from "../../api/useBegin";
import { span, volume } from "../../ui/format";
import { serving, setLaw } from "../editing/changes";
import type { Editor } from "../editing/editor";
import { Rounding } from "./Rounding";
import look from "./Size.module.css";
import { Trouble } from "../../ui/Trouble";
import { numberIn } from "../../ui/reading";
import { keys } from "../../api/keys";

type Law = Schemas["Law"];
type Row = Schemas["SheetRow"];
type Column = Schemas["SheetColumn"];

interface SheetProps {
  editor: Editor;
  drink: Drink;
  report: DrinkReport;
}

/** The drink at several sizes side by side, in measures that this kitchen has. */
export function Sheet({ editor, drink, report }: SheetProps) {
  const { settings } = useSettings();
  const served = serving(drink);
  const [party, setParty] = useState("48");
  const [only, setOnly] = useState(1);
  const [scaling, setScaling] = useState(false);
  const [glass, setGlass] = useState(() =>
    served ? `${5 * Math.round((report.profile?.glass_ml ?? 250) / 5)} ml` : "250 ml",
  );
  const many = Number(party);
  const { id = "" } = useParams();
  const begin = useBegin(id);
  const now = served?.glasses ?? 8;
  const sizes = [
    { name: "1 glass", size: { glasses: { glasses: 1, size: glass } } },
    {
      name: served ? (now === 1 ? "as it is" : "pitcher, as it is") : "as it is",
      size: { factor: 1 },
    },
    { name: "party", size: { glasses: { glasses: many, size: glass } } },
  ];
  const { data, error, again, latest } = useQuestion(
    keys.sheet(drink.steps, drink.vessels, glass, many, settings.units),
    (signal) =>
      answer(
        api.POST("/api/compute/sheet", {
          body: { drink, sizes, units: settings.units ?? "as_written" },
          headers: asking("sizes"),
          signal,
        }),
      ),
  );
  const take = (name: string, act: (sized: Drink) => void) =>
    void latest(({ columns }) => {
      const column = columns.find((c) => c.name === name);
      if (column) act(column.drink);
    });
  const other = data?.columns.map((c) => c.name).filter((name) => !name.includes("as it is")) ?? [];
  return (
    <Box>
      <Box
        className="no-print"
        sx={{ display: "flex", flexWrap: "wrap", gap: 1.5, alignItems: "center", mb: 1 }}
      >
        <TextField
          size="small"
          label="Party, glasses"
          value={party}
          onChange={(event) => setParty(event.target.value)}
          slotProps={{ htmlInput: { inputMode: "numeric" } }}
          sx={{ width: 120 }}
        />
        <TextField
          size="small"
          label="A glass is"
          value={glass}
          onChange={(event) => setGlass(event.target.value)}
          sx={{ width: 120 }}
        />
        <AsMuchAs editor={editor} drink={drink} report={report} />
        <Box sx={{ flex: 1 }} />
        <Button aria-expanded={scaling} onClick={() => setScaling(!scaling)}>
          {scaling ? "Hide scaling" : "Change scaling"}
        </Button>
        <Button variant="outlined" onClick={() => window.print()}>
          Print
        </Button>
      </Box>
      <Trouble error={error} again={again} />
      <Trouble error={begin.error ?? undefined} />
      {data && (
        <>
          {/* On a phone there is room for one size beside the names. */}
          <Box
            role="group"
            aria-label="Size shown"
            className="no-print"
            sx={{ display: { xs: "flex", sm: "none" }, gap: 1, my: 1 }}
          >
            {data.columns.map((c, i) => (
              <Button
                key={c.name}
                variant={i === only ? "contained" : "outlined"}
                aria-pressed={i === only}
                onClick={() => setOnly(i)}
                sx={{ flex: 1, minHeight: 44, px: 0.5, lineHeight: 1.2 }}
              >
                {c.name}
              </Button>
            ))}
          </Box>
          <Box sx={{ overflowX: "auto" }}>
            <table className={look.sheet} data-only={only}>
              <thead>
                <tr>
                  <th scope="col">Ingredient</th>
                  {data.columns.map((c) => (
                    <th scope="col" key={c.name} data-column={c.name}>
                      <Head column={c} />
                    </th>
                  ))}
                </tr>
              </thead>
              <tbody>
                {data.rows.map((row) => (
                  <Line key={row.step} row={row} editor={editor} scaling={scaling} />
                ))}
                <Times columns={data.columns} report={report} />
              </tbody>
            </table>
          </Box>
          <Box className="no-print" sx={{ display: "flex", flexWrap: "wrap", gap: 1.5, mt: 2 }}>
            {other.map((name) => (
              <Button
                key={name}
                variant="outlined"
                onClick={() =>
                  take(name, ({ steps, vessels }) => editor.edit((d) => ({ ...d, steps, vessels })))
                }
              >
                Change the drink to this size: {name}
              </Button>
            ))}
            {other.map((name) => (
              <Button
                key={`${name} now`}
                disabled={begin.isPending}
                onClick={() => take(name, (sized) => begin.mutate({ drink: sized }))}
              >
                Make this size now: {name}
              </Button>
            ))}
          </Box>
          {data.rows.flatMap((row) =>
            row.cells.map(
              (cell, i) =>
                cell.stock && (
                  <Box
                    key={row.step + i}
                    sx={{
                      bgcolor: colour("wash"),
                      borderRadius: "10px",
                      p: 1.25,
                      mt: 1.5,
                      fontSize: 14,
                    }}
                  >
                    <strong>
                      {row.name} for {data.columns[i]!.name}.
                    </strong>{" "}
                    {cell.stock}
                  </Box>
                ),
            ),
          )}
        </>
      )}
    </Box>
  );
}

function Head({ column }: { column: Column }) {
  const off = column.exact && column.rounded;
  return (
    <>
      <Box sx={{ ...displayFont, fontSize: 17, fontWeight: 700, color: colour("ink") }}>
        {column.name}
      </Box>
      <Box sx={{ display: "flex", flexWrap: "wrap", columnGap: 1.5, alignItems: "center" }}>
        <div>
          <Box>
            {Math.round(column.glasses)} × {volume(column.glass_ml)}, {volume(column.volume_ml)}
          </Box>
          {off && (
            <Box sx={{ color: colour(column.noticeable ? "stop" : "muted") }}>
              {column.noticeable
                ? `rounding is noticeable: ${column.rounded!.sweetness.toFixed(1)} g and ${column.rounded!.acidity.toFixed(2)} % instead of ${column.exact!.sweetness.toFixed(1)} and ${column.exact!.acidity.toFixed(2)}`
                : `${column.rounded!.sweetness.toFixed(1)} g sweet, ${column.rounded!.acidity.toFixed(2)} % acid`}
            </Box>
          )}
        </div>
        {column.shift && <Rounding shift={column.shift} />}
      </Box>
    </>
  );
}

const laws: [string, Law][] = [
  ["in proportion", "straight"],
  ["less above 4×", { spice: 0.85 }],
  ["the same in every vessel", "per_vessel"],
  ["the same in each glass", "per_glass"],
  ["in proportion, then to taste", "to_taste"],
];

function lawText(law: Law): string {
  if (typeof law === "object") return "less above 4×";
  return laws.find(([, l]) => l === law)![0];
}

interface LineProps {
  row: Row;
  editor: Editor;
  /** Shows the scaling of every ingredient to be changed; otherwise only where it isn’t in proportion. */
  scaling: boolean;
}

function Line({ row, editor, scaling }: LineProps) {
  const [wrong, setWrong] = useState<string | undefined>();
  return (
    <tr data-row={row.name}>
      <th scope="row">
        {row.name}
        {row.is_fill_line && <span className={look.small}> to the line</span>}
        <div className={`${look.small} no-print`} title={row.law_reason}>
          {row.law === "per_glass" && "in each glass"}
          {row.law !== "per_glass" && !scaling && row.law !== "straight" && lawText(row.law)}
          {row.law !== "per_glass" && scaling && (
            <select
              aria-label={`Scaling of ${row.name}`}
              value={lawText(row.law)}
              onChange={(event) => {
                const law = laws.find(([text]) => text === event.target.value)![1];
                void editor.tryEdit(setLaw(row.step, law));
              }}
              className={look.law}
            >
              {laws
                .filter(([, law]) => law !== "per_glass")
                .map(([text]) => (
                  <option key={text}>{text}</option>
                ))}
            </select>
          )}
          {typeof row.law === "object" && scaling && (
            <input
              aria-label={`Power of ${row.name}`}
              className={look.power}
              defaultValue={row.law.spice}
              aria-invalid={wrong !== undefined}
              onBlur={async (event) => {
                const { number: spice, wrong } = await numberIn("number", event.target.value);
                setWrong(wrong ?? (await editor.tryEdit(setLaw(row.step, { spice }))));
              }}
            />
          )}
          {wrong && (
            <div role="alert" className={look.wrong}>
              {wrong}
            </div>
          )}
        </div>
      </th>
      {row.cells.map((cell, i) => (
        <td key={i}>
          <strong>{cell.text}</strong>
          {cell.other !== cell.text && <div className={look.small}>{cell.other}</div>}
          {cell.stock && <div className={look.small}>from a stock solution, see below</div>}
        </td>
      ))}
    </tr>
  );
}

/** What takes longer when there is more of it. */
function Times({ columns, report }: { columns: Column[]; report: DrinkReport }) {
  const changing = report.frames
    .map((frame, i) => ({ frame, minutes: columns.map((c) => c.step_minutes[i] ?? 0) }))
    .filter(({ minutes }) => Math.max(...minutes) - Math.min(...minutes) > 2);
  return (
    <>
      <tr className={look.total}>
        <th scope="row">Start to finish</th>
        {columns.map((c) => (
          <td key={c.name}>
            <strong>{span(c.minutes)}</strong>
            <div className={look.small}>{span(c.hands_on_minutes)} hands-on</div>
            {c.changes.map((change) => (
              <div key={change} className={look.small}>
                {change}
              </div>
            ))}
          </td>
        ))}
      </tr>
      {changing.map(({ frame, minutes }) => (
        <tr key={frame.step}>
          <th scope="row" className={look.small}>
            {frame.sentence}
          </th>
          {minutes.map((m, i) => (
            <td key={i}>{span(m)}</td>
          ))}
        </tr>
      ))}
    </>
  );
}

/** As much as so much of one thing allows. */
function AsMuchAs({ editor, drink, report }: SheetProps) {
  const lines = report.lines.filter((line) => !line.is_fill_line && !line.follows && !line.in_each);
  const [step, setStep] = useState("");
  const [amount, setAmount] = useState("");
  const [wrong, setWrong] = useState<string | undefined>();
  const chosen = lines.find((line) => line.step === step);
  return (
    <Box
      component="form"
      aria-label="As much as you have"
      onSubmit={async (event: React.FormEvent) => {
        event.preventDefault();
        try {
          const size = { as_much_as: { step, amount } };
          const sized = await answer(api.POST("/api/compute/size", { body: { drink, size } }));
          setWrong(undefined);
          editor.edit(() => sized.drink);
        } catch (error) {
          setWrong((error as Error).message);
        }
      }}
      sx={{ display: "flex", flexWrap: "wrap", gap: 1, alignItems: "center" }}
    >
      <TextField
        select
        size="small"
        label="Limited by"
        value={chosen ? step : ""}
        onChange={(event) => {
          setStep(event.target.value);
          setAmount(lines.find((line) => line.step === event.target.value)?.text ?? "");
        }}
        sx={{ minWidth: 190 }}
      >
        {lines.map((line) => (
          <MenuItem key={line.step} value={line.step}>
            {line.name}
          </MenuItem>
        ))}
      </TextField>
      {chosen && (
        <>
          <TextField
            size="small"
            label="Amount you have"
            value={amount}
            error={wrong !== undefined}
            helperText={wrong}
            onChange={(event) => setAmount(event.target.value)}
            sx={{ width: 130 }}
          />
          <Button type="submit" variant="outlined">
            Use this size
          </Button>
        </>
      )}
    </Box>
  );
}
