import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import { ChevronDown, ChevronUp, Minus, Plus, Trash2 } from "lucide-react";
import { memo, useState } from "react";
import type { Drink, DrinkReport, LineReport, Settings, Way } from "../../api/client";
import { useSettings } from "../../api/queries";
import { colour } from "../../ui/theme";
import { AmountField } from "../../ui/AmountField";
import { useStable } from "../../ui/useStable";
import { moveLine, removeStep, setAmount, setNote } from "../editing/changes";
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
  const showBy = useStable((ingredient: string, kind: string) =>
    change((s) => ({ ...s, shown_by: { ...s.shown_by, [ingredient]: kind as ShownBy } })),
  );
  return (
    <Box component="section" aria-label="Ingredients">
      <div className={`${look.columns} ${look.heads}`}>
        <span>Ingredients</span>
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
            onShowBy={showBy}
          />
        ))}
      </Box>
      {rests.length === 0 && (
        <Box sx={{ py: 2, color: colour("muted") }}>
          No ingredients yet. Start with the water or the fruit.
        </Box>
      )}
      <AddIngredient editor={editor} onAdded={setChosen} />
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
  onShowBy: (ingredient: string, kind: string) => void;
}

const wayNames: Record<string, string> = {
  weight: "weight",
  volume: "volume",
  cups: "cups",
  pieces: "pieces",
};

const Line = memo(function Line(props: LineProps) {
  const { editor, line, way, note, vessel, chosen, onChoose } = props;
  const { held, most, onSwap } = props;
  const detail = [
    line.is_fill_line ? `to the line in the ${vessel.toLowerCase()}` : note,
    line.in_each && "in each glass",
    line.also,
    held && "held",
    most && `at most ${most}`,
  ].filter(Boolean);
  const change = useStable((amount: string, drag?: string) =>
    editor.edit(setAmount(line.step, amount), drag ?? line.step, drag !== undefined),
  );
  const nudge = useStable((by: number) => change(nudged(way, by)));
  const swap = useStable(() => onSwap(line));
  const type = useStable((text: string) => editor.tryEdit(setAmount(line.step, text)));
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
            ingredient={line.ingredient}
            way={way}
            onChange={change}
            onRest={editor.rest}
            onType={type}
          />
        )}
        <Shares line={line} />
      </div>
      {chosen && (
        <Tools
          editor={editor}
          note={note}
          isFirst={props.isFirst}
          isLast={props.isLast}
          held={held}
          most={most}
          onHold={props.onHold}
          onMost={props.onMost}
          onChoose={onChoose}
          onShowBy={props.onShowBy}
          step={line.step}
          name={line.name}
          ingredient={line.ingredient}
          follows={line.follows}
          isFillLine={line.is_fill_line}
          kinds={line.ways.map((w) => w.kind).join(" ")}
          kind={way.kind}
          onNudge={nudge}
          onSwap={swap}
        />
      )}
    </li>
  );
});

interface ToolsProps {
  editor: Editor;
  step: string;
  name: string;
  ingredient: string;
  follows: boolean;
  isFillLine: boolean;
  /** The ways in which the amount can be said, with spaces between. */
  kinds: string;
  /** The one that is shown. */
  kind: string;
  note: string;
  isFirst: boolean;
  isLast: boolean;
  held: boolean;
  most: string;
  onNudge: (by: number) => void;
  onHold: (step: string) => void;
  onMost: (step: string, which: "most", text: string) => void;
  onSwap: () => void;
  onChoose: (step: string | undefined) => void;
  onShowBy: (ingredient: string, kind: string) => void;
}

/** What can be done with the chosen line. It stands still while its amount is dragged. */
const Tools = memo(function Tools(props: ToolsProps) {
  const { editor, step, name, ingredient, follows, isFillLine, kinds, kind, note } = props;
  const { isFirst, isLast, held, most } = props;
  const { onNudge, onHold, onMost, onSwap, onChoose, onShowBy } = props;
  return (
    <Box
      sx={{ display: "flex", flexWrap: "wrap", alignItems: "center", gap: 0.5, pb: 1 }}
      role="group"
      aria-label={`Change ${name}`}
    >
      <Small label={`Less ${name}`} onClick={() => onNudge(-1)}>
        <Minus size={18} aria-hidden />
      </Small>
      <Small label={`More ${name}`} onClick={() => onNudge(1)}>
        <Plus size={18} aria-hidden />
      </Small>
      {kinds
        .split(" ")
        .filter((k) => k !== "as_written")
        .map((k) => (
          <Button
            key={k}
            size="small"
            aria-pressed={k === kind}
            aria-label={`Show ${name} by ${wayNames[k]}`}
            onClick={() => onShowBy(ingredient, k)}
            sx={{
              minHeight: 40,
              px: 0.75,
              minWidth: 0,
              fontSize: 13,
              fontWeight: k === kind ? 700 : 500,
              color: k === kind ? colour("cobalt") : colour("muted"),
              textDecoration: k === kind ? "underline" : "none",
              textUnderlineOffset: "4px",
            }}
          >
            {wayNames[k]}
          </Button>
        ))}
      <Box sx={{ flex: 1 }} />
      <Small
        label={`Move ${name} up`}
        disabled={isFirst}
        onClick={() => editor.edit(moveLine(step, -1))}
      >
        <ChevronUp size={18} aria-hidden />
      </Small>
      <Small
        label={`Move ${name} down`}
        disabled={isLast}
        onClick={() => editor.edit(moveLine(step, 1))}
      >
        <ChevronDown size={18} aria-hidden />
      </Small>
      <Small
        label={`Leave out ${name}`}
        onClick={() => {
          onChoose(undefined);
          editor.edit(removeStep(step));
        }}
      >
        <Trash2 size={17} aria-hidden />
      </Small>
      <Box sx={{ display: "flex", gap: 1, flexBasis: "100%", alignItems: "center" }}>
        <Button
          aria-pressed={held}
          aria-label={`Hold ${name}`}
          onClick={() => onHold(step)}
          sx={{
            minHeight: 40,
            px: 1.25,
            fontSize: 13,
            flexShrink: 0,
            border: `1.5px solid ${colour(held ? "cobalt" : "hairline")}`,
            bgcolor: held ? colour("wash") : "transparent",
          }}
        >
          {held ? "Fixed" : "Keep fixed"}
        </Button>
        {!follows && (
          <TextField
            size="small"
            label="at most"
            defaultValue={most}
            onBlur={(event) => onMost(step, "most", event.target.value)}
            onKeyDown={(event) => {
              event.stopPropagation();
              if (event.key === "Enter") (event.target as HTMLElement).blur();
            }}
            slotProps={{ htmlInput: { "aria-label": `Maximum ${name}` } }}
            sx={{ width: 110 }}
          />
        )}
        <Box sx={{ flex: 1 }} />
        {!follows && (
          <Button onClick={() => onSwap()} sx={{ px: 1, minWidth: 0, fontSize: 13 }}>
            Swap
          </Button>
        )}
      </Box>
      {!isFillLine && (
        <NoteField key={note} note={note} onNote={(text) => editor.edit(setNote(step, text))} />
      )}
    </Box>
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
      aria-label="Note, such as torn or in pieces"
      placeholder="note, such as torn or in pieces"
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
