import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import { useState } from "react";
import type { Ingredient, Kitchen, Schemas } from "../api/client";
import { findIngredients, useIngredients, useKitchen } from "../api/queries";
import { DeleteButton } from "../ui/DeleteButton";
import { colour, displayFont } from "../ui/theme";
import { MadeOf } from "./MadeOf";
import { NewIngredient } from "./NewIngredient";
import { OwnField } from "./OwnField";
import { WeighCup } from "./WeighCup";
import look from "./Cupboard.module.css";

/** Kinds that are poured or dissolved whole, so that °Brix says what they do to a drink. */
const poured = new Set(["juice", "sweetener", "syrup", "dairy", "soda", "spirit"]);

const rests = { table: "from the tables", estimate: "estimated", measured: "measured here" };

/** Everything that can go into a drink: find it, see its figures, put in one's own. */
export function Ingredients() {
  const { data: all = [] } = useIngredients();
  const [text, setText] = useState("");
  const [chosen, setChosen] = useState("lemon_juice");
  const [making, setMaking] = useState(false);
  const found = findIngredients([...all], text);
  const it = all.find((i) => i.id === chosen);
  return (
    <div className={look.split}>
      <Box sx={{ minWidth: 0 }}>
        <Box sx={{ display: "flex", gap: 1, mb: 1 }}>
          <TextField
            size="small"
            label="Find an ingredient"
            value={text}
            onChange={(event) => setText(event.target.value)}
            sx={{ flex: 1 }}
          />
          <Button variant="outlined" onClick={() => setMaking(true)} sx={{ flexShrink: 0 }}>
            Add your own
          </Button>
        </Box>
        <ul className={look.list} aria-label="Ingredients">
          {found.map((i) => (
            <li key={i.id}>
              <button
                type="button"
                className={i.id === chosen ? `${look.row} ${look.chosen}` : look.row}
                aria-pressed={i.id === chosen}
                onClick={() => setChosen(i.id)}
              >
                <span>
                  {i.name}
                  {i.own && (
                    <span className={look.own}>
                      {i.kept_for_drinks ? " deleted, still used in a drink" : " yours"}
                    </span>
                  )}
                </span>
                <span className={look.facts}>
                  {poured.has(i.kind)
                    ? `${i.brix.toFixed(0)} °Bx${i.acidity_percent >= 0.05 ? ` · ${i.acidity_percent.toFixed(1)} % acid` : ""}`
                    : i.kind}
                </span>
              </button>
            </li>
          ))}
          {found.length === 0 && all.length > 0 && (
            <li className={look.none}>
              We found nothing called “{text}”. Try another name, or add your own.
            </li>
          )}
        </ul>
      </Box>
      {it && <Detail key={it.id} it={it} onGone={() => setChosen("lemon_juice")} />}
      {making && (
        <NewIngredient
          onClose={() => setMaking(false)}
          onMade={(id) => {
            setMaking(false);
            setText("");
            setChosen(id);
          }}
        />
      )}
    </div>
  );
}

const figure = (value: number) => value.toFixed(value < 2 ? 2 : value < 20 ? 1 : 0);
const percent = (share: number) => `${Math.round(share * 100)} %`;

function Detail({ it, onGone }: { it: Ingredient; onGone: () => void }) {
  const { kitchen, change } = useKitchen();
  const [wrong, setWrong] = useState<string | undefined>();
  const own = kitchen.figures?.[it.id] ?? {};
  type Key = keyof Schemas["OwnFigures"];
  const set = (key: Key) => (value: number | undefined) => {
    return change((k) => {
      const figures = { ...k.figures };
      const mine = { ...figures[it.id], [key]: value };
      if (Object.values(mine).every((v) => v == null)) delete figures[it.id];
      else figures[it.id] = mine;
      return { ...k, figures };
    });
  };
  const isOwn = kitchen.ingredients?.some((i) => i.id === it.id);
  const range = (e: NonNullable<Ingredient["keeps"]>) =>
    `estimated, ${figure(e.low)} to ${figure(e.high)}`;
  return (
    <Box component="section" aria-label={it.name} className={look.detail}>
      <Box component="h2" sx={{ ...displayFont, fontSize: 24, fontWeight: 700, m: 0 }}>
        {it.name}
      </Box>
      <Box sx={{ color: colour("muted"), fontSize: 14, mb: 1.5 }}>
        {[it.kind, ...it.aliases].join(", ")} · {rests[it.evidence]}
      </Box>
      <MadeOf it={it} />
      <dl className={look.figures}>
        {(
          [
            ["dissolved", `${it.brix.toFixed(1)} °Bx`],
            ["sweetness", `${it.sweetness_percent.toFixed(1)} g in 100 g`],
            it.ph != null && ["pH", it.ph.toFixed(1)],
            ["energy", `${it.kcal.toFixed(0)} kcal in 100 g`],
          ].filter(Boolean) as [string, string][]
        ).map(([name, value]) => (
          <div key={name}>
            <dt>{name}</dt>
            <dd>{value}</dd>
          </div>
        ))}
      </dl>
      <Box component="h3" sx={{ fontSize: 15, m: 0, mt: 2, mb: 1 }}>
        Figures you can measure yourself
      </Box>
      <div className={look.fields}>
        <OwnField
          label="sugars"
          unit="g in 100 g"
          value={it.sugar_percent}
          own={own.sugar}
          rests={rests[it.evidence]}
          places={2}
          onSet={set("sugar")}
        />
        <OwnField
          label="acid"
          unit="g in 100 g"
          value={it.acidity_percent}
          own={own.acid}
          rests={rests[it.evidence]}
          places={2}
          onSet={set("acid")}
        />
        {it.density != null && (
          <OwnField
            label="weight of a millilitre"
            unit="g"
            value={it.density}
            own={own.density}
            rests="from the tables"
            places={3}
            onSet={set("density")}
          />
        )}
        {it.keeps && (
          <OwnField
            label={it.strained?.cooked ? "liquid held: raw, drained" : "liquid held when drained"}
            unit="g for each gram"
            value={it.keeps.value}
            own={own.keeps}
            rests={range(it.keeps)}
            places={2}
            onSet={set("keeps")}
          />
        )}
        {it.strained?.cooked && (
          <OwnField
            label="liquid held: cooked or thawed"
            unit="g for each gram"
            value={it.strained.cooked.value}
            own={own.keeps_cooked}
            rests={range(it.strained.cooked)}
            places={2}
            onSet={set("keeps_cooked")}
          />
        )}
        {it.strained && (
          <OwnField
            label="liquid held: blended, drained"
            unit="g for each gram"
            value={it.strained.blended.value}
            own={own.keeps_blended}
            rests={range(it.strained.blended)}
            places={2}
            onSet={set("keeps_blended")}
          />
        )}
        {it.drawing_minutes && (
          <OwnField
            label="two thirds extracted at 95 °C"
            unit="minutes"
            value={it.drawing_minutes.value}
            own={own.drawing_minutes}
            rests={range(it.drawing_minutes)}
            places={1}
            onSet={set("drawing_minutes")}
          />
        )}
      </div>
      {it.strained && (
        <Box sx={{ fontSize: 13.5, color: colour("muted"), mt: 1 }}>
          Pressed with a spoon, the solids hold {percent(it.strained.pressed)} of that; wrung out,{" "}
          {percent(it.strained.wrung)}.
        </Box>
      )}
      {it.density != null && <WeighCup it={it} onWeighed={set("density")} />}
      <Box component="h3" sx={{ fontSize: 15, m: 0, mt: 2, mb: 0.5 }}>
        Sources
      </Box>
      <Box component="ul" sx={{ m: 0, pl: 2.25, fontSize: 13.5, color: colour("muted") }}>
        {it.sources.map((source) => (
          <li key={source.of + source.source}>
            <Box component="span" sx={{ color: colour("ink") }}>
              {source.of}
            </Box>
            : {source.source}
            {!source.source.includes("estimated") && ` (${rests[source.evidence]})`}
          </li>
        ))}
        {it.notes && <li>{it.notes}</li>}
      </Box>
      {it.kept_for_drinks && (
        <Box sx={{ mt: 1.5, fontSize: 14, color: colour("muted") }}>
          You deleted this ingredient. It stays here until no drink uses it.
        </Box>
      )}
      {isOwn && it.kept_for_drinks && (
        <Button
          sx={{ mt: 0.5, px: 0 }}
          onClick={async () => {
            const back = (k: Kitchen): Kitchen => ({
              ...k,
              ingredients: k.ingredients?.map((i) =>
                i.id === it.id ? { ...i, kept_for_drinks: false } : i,
              ),
            });
            setWrong(await change(back));
          }}
        >
          Undo
        </Button>
      )}
      {isOwn && !it.kept_for_drinks && (
        <DeleteButton
          sx={{ mt: 1.5, px: 0 }}
          onDelete={async () => {
            const problem = await change((k) => {
              const figures = { ...k.figures };
              delete figures[it.id];
              return { ...k, figures, ingredients: k.ingredients?.filter((i) => i.id !== it.id) };
            });
            setWrong(problem);
            if (!problem) onGone();
          }}
        >
          Delete this ingredient
        </DeleteButton>
      )}
      {wrong && (
        <Box role="alert" sx={{ color: colour("stop") }}>
          {wrong}
        </Box>
      )}
    </Box>
  );
}
