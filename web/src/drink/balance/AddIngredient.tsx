import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Dialog from "@mui/material/Dialog";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import { memo, useState } from "react";
import { useStore } from "zustand";
import type { Drink, DrinkReport, Ingredient } from "../../api/client";
import { findIngredients, offered, useIngredients } from "../../api/queries";
import { colour } from "../../app/theme";
import { addIngredient } from "../changes";
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
            onPick={(it, into) => {
              const before = editor.store.getState().drink.steps;
              editor.edit(addIngredient(it, into, at));
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

interface FinderProps {
  editor: Editor;
  vessel: string | undefined;
  onPick: (it: Ingredient, vessel: string) => void;
}

/** What there is to choose from; only while it is open does it look at the drink. */
function Finder({ editor, vessel: asked, onPick }: FinderProps) {
  const { data: all = [], isPending } = useIngredients();
  const [text, setText] = useState("");
  const drink = useStore(editor.store, (state) => state.drink);
  const report = useStore(editor.store, (state) => state.shown?.report);
  const holders = report?.vessels.filter((v) => !v.strains) ?? [];
  const [chosen, setVessel] = useState(asked);
  const vessel = chosen ?? usualVessel(drink, report) ?? holders[0]?.id ?? "";
  const found = findIngredients(offered(all), text);
  const pick = (it: Ingredient | undefined) => it && vessel && onPick(it, vessel);
  return (
    <Box sx={{ display: "flex", flexDirection: "column", minHeight: 0, height: 1 }}>
      <Box sx={{ display: "flex", gap: 1.5, p: 2, pb: 1.5 }}>
        <TextField
          autoFocus
          size="small"
          label="Find in the cupboard"
          value={text}
          onChange={(event) => setText(event.target.value)}
          onKeyDown={(event) => {
            if (event.key !== "Enter") return;
            // The key must not go on to the button that gets the focus back.
            event.preventDefault();
            pick(found[0]);
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
      <Box component="ul" sx={{ listStyle: "none", m: 0, p: 1, pt: 0, overflowY: "auto", flex: 1 }}>
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
        {found.length === 0 && all.length > 0 && (
          <Box component="li" sx={{ p: 2, color: colour("muted") }}>
            Nothing in the cupboard is called “{text}”. Try another name for it.
          </Box>
        )}
      </Box>
    </Box>
  );
}

/** Where most things are added: the vessel that was last added to, else the one it ends up in. */
function usualVessel(drink: Drink, report: DrinkReport | undefined): string | undefined {
  const added = report?.lines.findLast((line) => !line.is_fill_line)?.vessel;
  return added ?? drink.vessels.find((v) => v.kind === "pitcher")?.id;
}
