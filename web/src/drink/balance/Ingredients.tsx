import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import { ChevronDown, ChevronUp, Minus, Plus, Trash2 } from "lucide-react";
import { memo, useState } from "react";
import type { Drink, DrinkReport, LineReport, Settings, Way } from "../../api/client";
import { useSettings } from "../../api/queries";
import { colour } from "../../app/theme";
import { AmountField } from "../../ui/AmountField";
import { moveLine, removeStep, setAmount, setNote } from "../changes";
import type { Editor } from "../editing/editor";
import { AddIngredient } from "./AddIngredient";
import type { Aiming } from "./aim";
import { Swap } from "./Swap";
import look from "./Ingredients.module.css";

interface IngredientsProps {
  editor: Editor;
  drink: Drink;
  report: DrinkReport;
  aiming: Aiming;
}

/** What goes in, with the amounts that can be changed and what each brings. */
export function Ingredients({ editor, drink, report, aiming }: IngredientsProps) {
  const { toggleHold, bound } = aiming;
  const [swapping, setSwapping] = useState<LineReport | undefined>();
  const [chosen, setChosen] = useState<string | undefined>();
  const { settings, change } = useSettings();
  const rests = report.lines;
  return (
    <Box component="section" aria-label="What goes in">
      <div className={`${look.columns} ${look.heads}`}>
        <span>What goes in</span>
        <span>amount</span>
        <span>sweet, acid, water</span>
      </div>
      <Box component="ul" sx={{ listStyle: "none", m: 0, p: 0 }}>
        {rests.map((line, i) => (
          <Line
            key={line.step}
            editor={editor}
            line={line}
            way={shownWay(line, settings)}
            note={drink.steps.find((step) => step.id === line.step)?.note ?? ""}
            vessel={report.vessels.find((v) => v.id === line.vessel)?.name ?? ""}
            chosen={chosen === line.step}
            isFirst={i === 0}
            isLast={i === rests.length - 1}
            held={aiming.hold.includes(line.step)}
            most={aiming.most[line.step] ?? ""}
            onHold={toggleHold}
            onMost={bound}
            onSwap={setSwapping}
            onChoose={setChosen}
            onShowBy={(kind) =>
              change((s) => ({
                ...s,
                shown_by: { ...s.shown_by, [line.ingredient]: kind as ShownBy },
              }))
            }
          />
        ))}
      </Box>
      {rests.length === 0 && (
        <Box sx={{ py: 2, color: colour("muted") }}>
          Nothing yet. Begin with the water or the fruit.
        </Box>
      )}
      <AddIngredient editor={editor} drink={drink} report={report} onAdded={setChosen} />
      {swapping && (
        <Swap
          editor={editor}
          drink={drink}
          line={swapping}
          onClose={() => setSwapping(undefined)}
        />
      )}
    </Box>
  );
}

type ShownBy = NonNullable<Settings["shown_by"]>[string];

/** The way in which an amount is shown: the ingredient's own, else that of the kitchen's units. */
function shownWay(line: LineReport, settings: Settings): Way {
  const by = (kind: string | undefined) => line.ways.find((way) => way.kind === kind);
  const own = by(settings.shown_by?.[line.ingredient]);
  const written = line.ways[0]!;
  if (own) return own;
  if (settings.units === "us") return by("cups") ?? by("weight") ?? written;
  if (settings.units === "metric") {
    const pours = line.is_fill_line || ["ml", "l"].includes(written.unit);
    return (pours ? by("volume") : by("weight")) ?? written;
  }
  return written;
}

interface LineProps {
  editor: Editor;
  line: LineReport;
  way: Way;
  note: string;
  vessel: string;
  chosen: boolean;
  isFirst: boolean;
  isLast: boolean;
  held: boolean;
  most: string;
  onHold: (step: string) => void;
  onMost: (step: string, which: "most", text: string) => void;
  onSwap: (line: LineReport) => void;
  onChoose: (step: string | undefined) => void;
  onShowBy: (kind: string) => void;
}

const wayNames: Record<string, string> = {
  weight: "weight",
  volume: "volume",
  cups: "cups",
  pieces: "pieces",
};

const Line = memo(function Line(props: LineProps) {
  const { editor, line, way, note, vessel, chosen, isFirst, isLast, onChoose, onShowBy } = props;
  const { held, most, onHold, onMost, onSwap } = props;
  const detail = [
    line.is_fill_line ? `to the line in the ${vessel.toLowerCase()}` : note,
    line.in_each && "in each glass",
    line.also,
    held && "held",
    most && `at most ${most}`,
  ].filter(Boolean);
  const change = (amount: string) => editor.edit(setAmount(line.step, amount), line.step);
  return (
    <li
      className={chosen ? `${look.line} ${look.chosen}` : look.line}
      data-line={line.ingredient}
      onClick={() => onChoose(line.step)}
      onFocus={() => onChoose(line.step)}
    >
      <div className={`${look.columns} ${look.row}`}>
        <div className={look.what}>
          <div className={look.name}>{line.name}</div>
          {detail.length > 0 && <div className={look.detail}>{detail.join(" · ")}</div>}
        </div>
        {line.follows ? (
          <div className={look.follows}>{line.text}</div>
        ) : (
          <AmountField
            of={line.name}
            way={way}
            onChange={change}
            onType={(text) => editor.tryEdit(setAmount(line.step, text))}
          />
        )}
        <Shares line={line} />
      </div>
      {chosen && (
        <Box
          sx={{ display: "flex", flexWrap: "wrap", alignItems: "center", gap: 0.5, pb: 1 }}
          role="group"
          aria-label={`Change ${line.name}`}
        >
          <Small label={`Less ${line.name}`} onClick={() => change(nudged(way, -1))}>
            <Minus size={18} aria-hidden />
          </Small>
          <Small label={`More ${line.name}`} onClick={() => change(nudged(way, 1))}>
            <Plus size={18} aria-hidden />
          </Small>
          {line.ways
            .filter((w) => w.kind !== "as_written")
            .map((w) => (
              <Button
                key={w.kind}
                size="small"
                aria-pressed={w.kind === way.kind}
                aria-label={`Show ${line.name} by ${wayNames[w.kind]}`}
                onClick={() => onShowBy(w.kind)}
                sx={{
                  minHeight: 40,
                  px: 0.75,
                  minWidth: 0,
                  fontSize: 13,
                  fontWeight: w.kind === way.kind ? 700 : 500,
                  color: w.kind === way.kind ? colour("cobalt") : colour("muted"),
                  textDecoration: w.kind === way.kind ? "underline" : "none",
                  textUnderlineOffset: "4px",
                }}
              >
                {wayNames[w.kind]}
              </Button>
            ))}
          <Box sx={{ flex: 1 }} />
          <Small
            label={`Move ${line.name} up`}
            disabled={isFirst}
            onClick={() => editor.edit(moveLine(line.step, -1))}
          >
            <ChevronUp size={18} aria-hidden />
          </Small>
          <Small
            label={`Move ${line.name} down`}
            disabled={isLast}
            onClick={() => editor.edit(moveLine(line.step, 1))}
          >
            <ChevronDown size={18} aria-hidden />
          </Small>
          <Small
            label={`Leave out ${line.name}`}
            onClick={() => {
              onChoose(undefined);
              editor.edit(removeStep(line.step));
            }}
          >
            <Trash2 size={17} aria-hidden />
          </Small>
          <Box sx={{ display: "flex", gap: 1, flexBasis: "100%", alignItems: "center" }}>
            <Button
              aria-pressed={held}
              aria-label={`Hold ${line.name}`}
              onClick={() => onHold(line.step)}
              sx={{
                minHeight: 40,
                px: 1.25,
                fontSize: 13,
                flexShrink: 0,
                border: `1.5px solid ${colour(held ? "cobalt" : "hairline")}`,
                bgcolor: held ? colour("wash") : "transparent",
              }}
            >
              {held ? "Held" : "Hold as it is"}
            </Button>
            {!line.follows && (
              <TextField
                size="small"
                label="at most"
                defaultValue={most}
                onBlur={(event) => onMost(line.step, "most", event.target.value)}
                onKeyDown={(event) => {
                  event.stopPropagation();
                  if (event.key === "Enter") (event.target as HTMLElement).blur();
                }}
                slotProps={{ htmlInput: { "aria-label": `At most so much ${line.name}` } }}
                sx={{ width: 110 }}
              />
            )}
            <Box sx={{ flex: 1 }} />
            {!line.follows && (
              <Button onClick={() => onSwap(line)} sx={{ px: 1, minWidth: 0, fontSize: 13 }}>
                Swap
              </Button>
            )}
          </Box>
          {!line.is_fill_line && (
            <NoteField
              key={note}
              note={note}
              onNote={(text) => editor.edit(setNote(line.step, text))}
            />
          )}
        </Box>
      )}
    </li>
  );
});

function nudged(way: Way, by: number): string {
  const next = Math.max(Math.round(way.value / way.step + by) * way.step, way.step);
  return `${Math.round(next * 1e6) / 1e6} ${way.unit}`.trim();
}

function Small(props: {
  label: string;
  disabled?: boolean;
  onClick: () => void;
  children: React.ReactNode;
}) {
  return (
    <Button
      aria-label={props.label}
      title={props.label}
      disabled={props.disabled}
      onClick={(event) => {
        event.stopPropagation();
        props.onClick();
      }}
      sx={{
        minWidth: 34,
        minHeight: 40,
        p: 0,
        color: colour("cobalt"),
        "@media (pointer: coarse)": { minWidth: 44, minHeight: 44 },
      }}
    >
      {props.children}
    </Button>
  );
}

function NoteField({ note, onNote }: { note: string; onNote: (note: string) => void }) {
  const [text, setText] = useState(note);
  const commit = () => text.trim() !== note && onNote(text.trim());
  return (
    <Box
      component="input"
      aria-label="How: torn, grated, in pieces"
      placeholder="how: torn, grated, in pieces"
      maxLength={200}
      value={text}
      onChange={(event: React.ChangeEvent<HTMLInputElement>) => setText(event.target.value)}
      onBlur={commit}
      onKeyDown={(event: React.KeyboardEvent) => event.key === "Enter" && commit()}
      sx={{
        flexBasis: "100%",
        minHeight: 36,
        font: "inherit",
        fontSize: 14,
        color: colour("ink"),
        bgcolor: "transparent",
        border: 0,
        borderBottom: `1px solid ${colour("hairline")}`,
        px: 0.5,
        "&::placeholder": { color: colour("muted"), opacity: 1 },
      }}
    />
  );
}

/** Three bars: the line's share of the drink's sweetness, acid and water. */
function Shares({ line }: { line: LineReport }) {
  const bars = [
    ["sweet", line.sweetness_share, "sweetness"],
    ["acid", line.acid_share, "acid"],
    ["water", line.water_share, "water"],
  ] as const;
  const words = bars
    .map(([, share, name]) => `${Math.round(share * 100)} % of the ${name}`)
    .join(", ");
  return (
    <div role="img" aria-label={words} title={words} className={look.shares}>
      {bars.map(([token, share]) => (
        <div key={token} className={look.share}>
          <span
            style={{
              background: colour(token),
              width: `${Math.max(share * 100, share > 0.001 ? 2 : 0)}%`,
            }}
          />
        </div>
      ))}
    </div>
  );
}
