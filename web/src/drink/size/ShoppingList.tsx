import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Checkbox from "@mui/material/Checkbox";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import { useState, type ReactNode } from "react";
import { useQuestion } from "../../api/ask";
import type { Schemas, Settings } from "../../api/client";
import { useKitchen, useSettings } from "../../api/queries";
import { colour, displayFont } from "../../ui/theme";
import { price, weight } from "../../ui/format";
import { FruitReading } from "./FruitReading";
import look from "./Size.module.css";
import { Trouble } from "../../ui/Trouble";
import { copyText } from "../../ui/copyText";
import { numberIn } from "../../ui/reading";
import { keys } from "../../api/keys";

type Item = Schemas["Item"];

const aisles: Record<Item["aisle"], string> = {
  fruit: "Fruit and vegetables",
  herbs: "Herbs and flowers",
  sugar: "Sugar and baking",
  spices: "Spices",
  dairy: "Milk",
  bottles: "Bottles",
  frozen: "Freezer",
  other: "Other",
};

/** Lists whose ticks are remembered. */
const MOST_LISTS = 50;

/** The ticks of all lists, with those of one changed. */
function withTicks(all: Settings["ticked"], list: string, items: string[]) {
  const others = Object.entries(all ?? {}).filter(([of]) => of !== list);
  const kept = others.slice(-MOST_LISTS);
  return Object.fromEntries(items.length > 0 ? [...kept, [list, items]] : kept);
}

interface ShoppingListProps {
  /** Whose ticks are remembered together. */
  listId: string;
  /** What the list is of; when it changes it is asked for again. */
  of: unknown;
  ask: (how: Schemas["Shopping"], signal: AbortSignal) => Promise<Schemas["ShoppingAnswer"]>;
  /** What stands under the choices. */
  children?: ReactNode;
}

/** What to buy, to be ticked off, copied, printed or saved as a table. */
export function ShoppingList({ listId, of, ask, children }: ShoppingListProps) {
  const { settings, change, known } = useSettings();
  const { kitchen } = useKitchen();
  const [chance, setChance] = useState("0.9");
  const [tool, setTool] = useState<"reamer" | "press">("reamer");
  const [said, setSaid] = useState("");
  const { data, error, again } = useQuestion(
    keys.shopping(listId, of, chance, tool, settings.units, kitchen),
    (signal) =>
      ask({ chance: Number(chance), tool, units: settings.units ?? "as_written" }, signal),
    // What is ticked off is never shown as not ticked, not even for a moment.
    known,
  );
  const ticked = settings.ticked?.[listId] ?? [];
  const tick = (item: string) =>
    change((s) => {
      const now = s.ticked?.[listId] ?? [];
      const next = now.includes(item) ? now.filter((t) => t !== item) : [...now, item];
      return { ...s, ticked: withTicks(s.ticked, listId, next) };
    });
  const list = data?.list;
  const sign = kitchen.currency || "";
  const copy = async () => {
    if (!list) return;
    const text = list.items
      .filter((item) => item.count > 0)
      .map((item) => `${item.buy}${item.by_piece ? "" : ` ${item.name.toLowerCase()}`}`)
      .join("\n");
    const copied = await copyText(text);
    setSaid(
      copied ? "Copied." : "This browser doesn't allow copying here. Select the text instead.",
    );
  };
  const save = () => {
    const link = document.createElement("a");
    link.href = URL.createObjectURL(new Blob([data?.csv ?? ""], { type: "text/csv" }));
    link.download = "shopping.csv";
    link.click();
    URL.revokeObjectURL(link.href);
  };
  const shown = [...new Set(list?.items.map((item) => item.aisle) ?? [])];
  return (
    <Box
      sx={{
        display: "grid",
        gridTemplateColumns: { xs: "minmax(0, 1fr)", md: "minmax(0, 1fr) 300px" },
        gap: { xs: 2, md: 5 },
        alignItems: "start",
      }}
    >
      <Box component="section" aria-label="Shopping list" sx={{ minWidth: 0 }}>
        <Trouble error={error} again={again} />
        {shown.map((aisle) => (
          <Box key={aisle} component="section" aria-label={aisles[aisle]} sx={{ mb: 2 }}>
            <Box component="h2" sx={{ ...displayFont, fontSize: 17, fontWeight: 700, m: 0 }}>
              {aisles[aisle]}
            </Box>
            <Box component="ul" sx={{ listStyle: "none", m: 0, p: 0 }}>
              {list!.items
                .filter((item) => item.aisle === aisle)
                .map((item) => (
                  <Line
                    key={item.id}
                    item={item}
                    sign={sign}
                    ticked={ticked.includes(item.id)}
                    onTick={() => tick(item.id)}
                  />
                ))}
            </Box>
          </Box>
        ))}
        {list && list.items.length === 0 && (
          <Box sx={{ color: colour("muted") }}>You have everything you need.</Box>
        )}
      </Box>
      <Box sx={{ display: "grid", gap: 1.75 }}>
        <Box className="no-print" sx={{ display: "flex", flexWrap: "wrap", gap: 1 }}>
          <Button variant="outlined" disabled={!list} onClick={() => void copy()}>
            Copy
          </Button>
          <Button variant="outlined" disabled={!list} onClick={() => window.print()}>
            Print
          </Button>
          <Button variant="outlined" disabled={!list} onClick={save}>
            Save as CSV
          </Button>
          {ticked.length > 0 && (
            <Button
              onClick={() => change((s) => ({ ...s, ticked: withTicks(s.ticked, listId, []) }))}
            >
              Untick all
            </Button>
          )}
          <Box role="status" sx={{ alignSelf: "center", color: colour("muted"), fontSize: 14 }}>
            {said}
          </Box>
        </Box>
        <Box className="no-print" sx={{ display: "grid", gridTemplateColumns: "1fr 1fr", gap: 1 }}>
          <TextField
            select
            size="small"
            label="Enough fruit"
            value={chance}
            onChange={(event) => setChance(event.target.value)}
          >
            <MenuItem value="0.5">half the time</MenuItem>
            <MenuItem value="0.8">8 times out of 10</MenuItem>
            <MenuItem value="0.9">9 times out of 10</MenuItem>
            <MenuItem value="0.98">nearly always</MenuItem>
          </TextField>
          <TextField
            select
            size="small"
            label="Squeezed with"
            value={tool}
            onChange={(event) => setTool(event.target.value as typeof tool)}
          >
            <MenuItem value="reamer">a hand reamer</MenuItem>
            <MenuItem value="press">a press</MenuItem>
          </TextField>
        </Box>
        {list && <Cost list={list} sign={sign} />}
        {children}
      </Box>
    </Box>
  );
}

function Cost({ list, sign }: { list: Schemas["ShoppingList"]; sign: string }) {
  const money = (value: number) => price(value, sign);
  return (
    <Box
      component="section"
      aria-label="Cost"
      sx={{ bgcolor: colour("enamel"), borderRadius: "12px", p: 1.75 }}
    >
      {list.cost == null ? (
        <Box sx={{ fontSize: 14, color: colour("muted") }}>Add prices to see the cost.</Box>
      ) : (
        <>
          <Box sx={{ ...displayFont, fontSize: 24, fontWeight: 700 }} data-figure="cost">
            {money(list.cost)}
          </Box>
          {list.unpriced > 0 && (
            <Box sx={{ fontSize: 14, color: colour("muted") }}>
              without{" "}
              {list.unpriced === 1
                ? "1 item without a price"
                : `${list.unpriced} items without a price`}
            </Box>
          )}
          {list.drinks
            .filter((d) => d.cost != null)
            .map((d) => (
              <Box key={d.name} sx={{ mt: 1, fontSize: 14 }}>
                <strong>{d.name}</strong>: {money(d.cost!)} of it, {money(d.per_glass!)} a glass
                {d.driven_by && `; mostly ${d.driven_by}`}
              </Box>
            ))}
        </>
      )}
    </Box>
  );
}

interface LineProps {
  item: Item;
  sign: string;
  ticked: boolean;
  onTick: () => void;
}

function Line({ item, sign, ticked, onTick }: LineProps) {
  const [open, setOpen] = useState(false);
  const what = item.by_piece ? item.buy : `${item.buy} ${item.name.toLowerCase()}`;
  const text = item.count > 0 ? what : `${item.name}: ${item.buy}`;
  return (
    <li className={look.item} data-item={item.id}>
      <Checkbox
        checked={ticked}
        onChange={onTick}
        slotProps={{ input: { "aria-label": `Ticked off: ${item.name}` } }}
        sx={{ width: 44, height: 44, p: 0 }}
      />
      <Box sx={{ minWidth: 0, pt: 1.25 }}>
        <Box className={ticked ? look.ticked : undefined} sx={{ fontWeight: 600 }}>
          {text}
        </Box>
        <Box className={look.small}>
          needed: {item.need}
          {item.by_piece && item.weight_g > 0 && `; about ${weight(item.weight_g)}`}
          {item.have > 0 && `; there: ${item.by_piece ? item.have.toFixed(0) : weight(item.have)}`}
        </Box>
        {item.chance && (
          <Box className={look.small}>
            {item.chance.message}
            {item.chance.own_share > 0.01 &&
              `; ${Math.round(item.chance.own_share * 100)} % by your own readings`}
          </Box>
        )}
        {item.left_over && <Box className={look.small}>left over: {item.left_over}</Box>}
        {open && <Larder item={item} />}
        {open && item.chance && <FruitReading produce={item.id} plural={item.name} />}
      </Box>
      <Box sx={{ textAlign: "right", pt: 0.5 }}>
        {item.cost != null && item.cost > 0 && (
          <Box sx={{ fontWeight: 600 }}>{price(item.cost, sign)}</Box>
        )}
        <Button
          className="no-print"
          onClick={() => setOpen(!open)}
          aria-expanded={open}
          aria-label={`More about ${item.name}`}
          sx={{ px: 1, minWidth: 0, fontSize: 13 }}
        >
          {open ? "Less" : "More"}
        </Button>
      </Box>
    </li>
  );
}

/** What is there of it, how it is sold, and what it costs. */
function Larder({ item }: { item: Item }) {
  const { kitchen, change } = useKitchen();
  const [wrong, setWrong] = useState<string | undefined>();
  const known = kitchen.larder?.[item.id] ?? {};
  const set = async (key: "have" | "pack" | "price", text: string) => {
    const empty = text.trim() === "";
    const said = empty ? undefined : await numberIn("number", text);
    if (said?.wrong) return setWrong(said.wrong);
    const number = said ? said.number : null;
    const value = key === "have" ? (number ?? 0) : number;
    setWrong(
      await change((k) => {
        const known = k.larder?.[item.id] ?? {};
        return { ...k, larder: { ...k.larder, [item.id]: { ...known, [key]: value } } };
      }),
    );
  };
  const unit = item.by_piece ? "pieces" : "g";
  return (
    <Box sx={{ display: "flex", flexWrap: "wrap", gap: 1, mt: 1 }} className="no-print">
      {(
        [
          ["have", `In stock, ${unit}`, known.have || ""],
          ["pack", `A pack holds, ${unit}`, known.pack ?? ""],
          [
            "price",
            item.by_piece && item.pack <= 1 ? "Price of one" : "Price of a pack",
            known.price ?? "",
          ],
        ] as const
      ).map(([key, label, value]) => (
        <TextField
          key={key}
          size="small"
          label={label}
          defaultValue={value}
          onBlur={(event) =>
            event.target.value !== String(value) && void set(key, event.target.value)
          }
          onKeyDown={(event) => event.key === "Enter" && (event.target as HTMLElement).blur()}
          slotProps={{ htmlInput: { inputMode: "decimal" } }}
          sx={{ width: 138 }}
        />
      ))}
      {wrong && (
        <Box role="alert" sx={{ color: colour("stop"), flexBasis: "100%", fontSize: 14 }}>
          {wrong}
        </Box>
      )}
    </Box>
  );
}
