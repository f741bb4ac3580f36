import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Dialog from "@mui/material/Dialog";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import { memo, useState } from "react";
import { useStore } from "zustand";
import type { Drink, DrinkReport, Ingredient, Schemas } from "../../api/client";
import { useLine } from "../../ui/reading";
import { weight } from "../../ui/format";
import { findIngredients, offered, useIngredients } from "../../api/queries";
import { colour } from "../../ui/theme";
import { NewIngredient } from "../../cupboard/NewIngredient";
import { addIngredient, type Adding } from "../editing/changes";
import type { Editor } from "../editing/editor";

interface AddIngredientProps {
  editor: Editor;
  /** Where in the order, and into what; where a cook would, if left out. */
  at?: number;
  vessel?: string;
  /** Among other buttons that have an outline. */
  outlined?: boolean;
  onAdded: (step: string | undefined) => void;
}

/** Finds something in the cupboard and puts it into a vessel. */
export const AddIngredient = memo(function AddIngredient(props: AddIngredientProps) {
  const { editor, at, vessel, outlined, onAdded } = props;
  const [open, setOpen] = useState(false);
  return (
    <>
      <Button
        variant={outlined ? "outlined" : "text"}
        onClick={() => setOpen(true)}
        sx={outlined ? { minHeight: 44, px: 1.5 } : { mt: 0.5, px: 0 }}
      >
        Add an ingredient
      </Button>
      <Dialog
        open={open}
        onClose={() => setOpen(false)}
        slotProps={{
          paper: {
            "aria-label": "Add an ingredient",
            sx: { width: 520, height: 560, maxWidth: "calc(100% - 32px)" },
          },
        }}
      >
        {open && (
          <Finder
            editor={editor}
            vessel={vessel}
            onPick={(things, into) => {
              const before = editor.store.getState().drink.steps;
              editor.edit((drink) =>
                things.reduce((d, thing, i) => {
                  const place = at === undefined ? undefined : at + i;
                  return addIngredient(thing, into, place)(d);
                }, drink),
              );
              const { steps } = editor.store.getState().drink;
              onAdded(steps.find((step) => !before.some((s) => s.id === step.id))?.id);
              setOpen(false);
            }}
          />
        )}
      </Dialog>
    </>
  );
});

type LineThing = Schemas["LineThing"];

interface FinderProps {
  editor: Editor;
  vessel: string | undefined;
  onPick: (things: Adding[], vessel: string) => void;
}

/** What there is to choose from; only while it is open does it look at the drink. */
function Finder({ editor, vessel: asked, onPick }: FinderProps) {
  const { data: all = [], isPending } = useIngredients();
  const [text, setText] = useState("");
  const drink = useStore(editor.store, (state) => state.drink);
  const report = useStore(editor.store, (state) => state.shown?.report);
  const holders = report?.vessels.filter((v) => !v.strains) ?? [];
  const [chosen, setVessel] = useState(asked);
  const [making, setMaking] = useState(false);
  const vessel = chosen ?? usualVessel(drink, report) ?? holders[0]?.id ?? "";
  const listed = findIngredients(offered(all), text);
  const { line, latest } = useLine(text);
  // What is typed with an amount is added as it stands; a bare name is looked for in the list.
  const said = thingsSaid(line);
  const alike = (line?.alike ?? []).flatMap(({ id }) => offered(all).filter((it) => it.id === id));
  const means = line?.things.flatMap(({ ingredient }) => all.filter((it) => it.id === ingredient));
  // "Sugar" is white sugar first, then all that has sugar in its name. Several words are the beginning of a name.
  const name = text.trim().toLowerCase();
  const begins = (it: Ingredient) => name.includes(" ") && it.name.toLowerCase().startsWith(name);
  const first = said.length > 0 || listed.some(begins) ? [] : (means ?? []);
  const found = [
    ...first,
    ...(listed.length > 0 ? listed : alike).filter((it) => !first.includes(it)),
  ];
  const pick = (it: Ingredient | undefined) =>
    it && vessel && onPick([{ ...it, amount: it.usual_amount }], vessel);
  const addSaid = (said: LineThing[]) => {
    const things = said.map((thing) => ({
      id: thing.ingredient,
      can_be_squeezed: thing.squeezed,
      amount: thing.amount,
      warmth: thing.warmth,
      cut: thing.cut,
    }));
    if (vessel) onPick(things, vessel);
  };
  /** A quick hand presses Enter before the line has been read. */
  const enter = () =>
    latest((line) => {
      const said = thingsSaid(line);
      const [first] = line.things;
      if (said.length > 0) addSaid(said);
      else pick(listed.find(begins) ?? all.find((it) => it.id === first?.ingredient) ?? found[0]);
    });
  return (
    <Box sx={{ display: "flex", flexDirection: "column", minHeight: 0, height: 1 }}>
      <Box sx={{ display: "flex", gap: 1.5, p: 2, pb: 1.5 }}>
        <TextField
          autoFocus
          size="small"
          label="Ingredient, with or without its amount"
          placeholder="2 cups hibiscus"
          value={text}
          onChange={(event) => setText(event.target.value)}
          onKeyDown={(event) => {
            if (event.key !== "Enter") return;
            // The key must not go on to the button that gets the focus back.
            event.preventDefault();
            if (text.trim() !== "") void enter();
          }}
          sx={{ flex: 1 }}
        />
        <TextField
          select
          size="small"
          label="into"
          value={vessel}
          onChange={(event) => setVessel(event.target.value)}
          sx={{ minWidth: 130 }}
        >
          {holders.map((v) => (
            <MenuItem key={v.id} value={v.id}>
              {v.name}
            </MenuItem>
          ))}
        </TextField>
      </Box>
      {making && (
        <NewIngredient
          name={text.trim()}
          onClose={() => setMaking(false)}
          onMade={(id) => {
            setMaking(false);
            onPick([{ id, amount: "100 g", can_be_squeezed: false }], vessel);
          }}
        />
      )}
      <Box component="ul" sx={{ listStyle: "none", m: 0, p: 1, pt: 0, overflowY: "auto", flex: 1 }}>
        {said.length > 0 && (
          <li>
            <Button
              fullWidth
              variant="contained"
              onClick={() => addSaid(said)}
              sx={{ minHeight: 52, mb: 1, justifyContent: "space-between", textAlign: "left" }}
            >
              <span>
                Add {said.map((thing) => `${thing.amount} ${thing.name.toLowerCase()}`).join(" + ")}
              </span>
              <Box component="span" sx={{ fontWeight: 400, fontSize: 13, flexShrink: 0, ml: 2 }}>
                {said.map((thing) => weight(thing.grams)).join(" + ")}
              </Box>
            </Button>
          </li>
        )}
        {said
          .flatMap((thing) => thing.assumed)
          .map((assumed) => (
            <Box component="li" key={assumed} sx={{ px: 2, pb: 1, color: colour("muted") }}>
              {assumed}
            </Box>
          ))}
        {listed.length === 0 && alike.length > 0 && text.trim() !== "" && (
          <Box component="li" sx={{ px: 2, py: 1, color: colour("muted") }}>
            Did you mean:
          </Box>
        )}
        {found.map((it) => (
          <li key={it.id}>
            <Button
              fullWidth
              onClick={() => pick(it)}
              sx={{
                justifyContent: "space-between",
                color: colour("ink"),
                minHeight: 46,
                textAlign: "left",
                gap: 2,
              }}
            >
              <Box component="span" sx={{ minWidth: 0 }}>
                {it.name}
                {it.aliases.length > 0 && (
                  <Box
                    component="span"
                    sx={{
                      display: "block",
                      fontWeight: 400,
                      fontSize: 13,
                      color: colour("muted"),
                      lineHeight: 1.2,
                    }}
                  >
                    {it.aliases.join(", ")}
                  </Box>
                )}
              </Box>
              <Box
                component="span"
                sx={{
                  flexShrink: 0,
                  fontWeight: 400,
                  fontSize: 13,
                  color: colour("muted"),
                  textAlign: "right",
                }}
              >
                {it.brix.toFixed(0)} °Bx
                {it.acidity_percent >= 0.05 && `, ${it.acidity_percent.toFixed(1)} % acid`}
                <br />
                {it.evidence === "table" ? "from the tables" : "estimated"}
              </Box>
            </Button>
          </li>
        ))}
        {isPending && (
          <Box component="li" role="status" sx={{ p: 2, color: colour("muted") }}>
            Searching …
          </Box>
        )}
        {listed.length === 0 && said.length === 0 && all.length > 0 && text.trim() !== "" && (
          <Box component="li" sx={{ p: 2, color: colour("muted") }}>
            “{text}” isn’t in the cupboard. Try another name, or{" "}
            <Button onClick={() => setMaking(true)} sx={{ p: 0, verticalAlign: "baseline" }}>
              add it as your own ingredient
            </Button>
            .
          </Box>
        )}
      </Box>
    </Box>
  );
}

/** What a line says with its amount. */
function thingsSaid(line: Schemas["LineRead"] | undefined): LineThing[] {
  return line?.things.some((thing) => thing.said) ? line.things : [];
}

/** Where most things are added: the vessel that was last added to, else the one it ends up in. */
function usualVessel(drink: Drink, report: DrinkReport | undefined): string | undefined {
  const added = report?.lines.findLast((line) => !line.is_fill_line)?.vessel;
  return added ?? drink.vessels.find((v) => v.kind === "pitcher")?.id;
}
