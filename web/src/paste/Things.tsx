import Autocomplete from "@mui/material/Autocomplete";
import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import { useState } from "react";
import type { LineReport, PasteChoice, Thing } from "../api/client";
import { offered, useIngredients } from "../api/queries";
import { colour, displayFont } from "../ui/theme";
import { weight } from "../ui/format";

interface ThingsProps {
  things: Thing[];
  lines: LineReport[];
  onChoose: (choice: PasteChoice) => void;
}

/** What goes in, as it was read; each can be changed, and what was guessed or is asked is marked. */
export function Things({ things, lines, onChoose }: ThingsProps) {
  return (
    <Box component="ul" sx={{ listStyle: "none", m: 0, p: 0 }}>
      {things.map((thing) => (
        <Row
          key={thing.key}
          thing={thing}
          grams={lines.find((line) => line.ingredient === thing.ingredient)?.grams}
          onChoose={onChoose}
        />
      ))}
    </Box>
  );
}

interface RowProps {
  thing: Thing;
  grams: number | undefined;
  onChoose: (choice: PasteChoice) => void;
}

function Row({ thing, grams, onChoose }: RowProps) {
  const [open, setOpen] = useState(false);
  const { data: ingredients = [] } = useIngredients();
  const [typed, setTyped] = useState<string | undefined>();
  const asked = thing.sure === "asked";
  const guessed = thing.sure === "guessed";
  const amount = thing.amount ?? undefined;
  const word = asked ? "which?" : guessed ? "guessed" : undefined;
  const chosen = offered(ingredients).find((it) => it.id === thing.ingredient) ?? null;
  return (
    <Box
      component="li"
      data-thing={thing.ingredient ?? thing.words}
      sx={{ borderBottom: `1px solid ${colour("hairline")}` }}
    >
      <Box
        component="button"
        type="button"
        aria-expanded={open}
        onClick={() => setOpen(!open)}
        sx={{
          display: "grid",
          gridTemplateColumns: "minmax(0, 1fr) minmax(0, 1fr) auto",
          columnGap: 1.5,
          alignItems: "baseline",
          width: "100%",
          textAlign: "left",
          font: "inherit",
          color: colour("ink"),
          background: "none",
          border: 0,
          cursor: "pointer",
          py: 1,
          px: 0,
        }}
      >
        <Box sx={{ minWidth: 0 }}>
          <Box
            sx={{
              fontWeight: 600,
              overflowWrap: "anywhere",
              color: colour(thing.left_out ? "muted" : "ink"),
            }}
          >
            {thing.name?.toLowerCase() ?? thing.words}
          </Box>
          <Box sx={{ fontSize: 13.5, color: colour("muted") }}>
            {thing.left_out
              ? "left out, kept in the note"
              : (thing.why[0] ?? (grams != null && grams >= 1 ? weight(grams) : ""))}
          </Box>
        </Box>
        <Box
          sx={{
            ...displayFont,
            fontSize: 17,
            fontWeight: 700,
            color: colour("cobalt"),
            textDecoration: thing.left_out ? "line-through" : "none",
            overflowWrap: "anywhere",
          }}
        >
          {thing.fills ? (amount ? `top up to ${amount}` : "to fill") : amount}
        </Box>
        <Box
          sx={{
            fontSize: 13.5,
            fontWeight: 600,
            color: colour(asked ? "stop" : "onNotice"),
            bgcolor: guessed ? colour("notice") : "transparent",
            px: guessed ? 0.75 : 0,
            minWidth: 60,
            textAlign: "right",
          }}
        >
          {word}
        </Box>
      </Box>
      {open && (
        <Box sx={{ pb: 1.5, display: "grid", gap: 1 }}>
          <Box sx={{ fontSize: 14, color: colour("muted") }}>Recipe: “{thing.words}”</Box>
          {thing.why.slice(thing.left_out ? 0 : 1).map((why) => (
            <Box key={why} sx={{ fontSize: 14 }}>
              {why}
            </Box>
          ))}
          <Box
            component="form"
            sx={{ display: "flex", flexWrap: "wrap", gap: 1 }}
            onSubmit={(event) => {
              event.preventDefault();
              if (typed?.trim()) onChoose({ key: thing.key, amount: typed });
              setTyped(undefined);
            }}
          >
            <Autocomplete
              size="small"
              options={offered(ingredients)}
              value={chosen}
              getOptionLabel={(it) => it.name}
              isOptionEqualToValue={(a, b) => a.id === b.id}
              onChange={(_, it) => it && onChoose({ key: thing.key, ingredient: it.id })}
              renderInput={(params) => <TextField {...params} label="What it is" />}
              sx={{ flex: "1 1 200px" }}
            />
            <TextField
              size="small"
              label="How much"
              value={typed ?? amount ?? ""}
              onChange={(event) => setTyped(event.target.value)}
              sx={{ width: 150 }}
            />
            <Button type="submit" variant="outlined" disabled={typed === undefined}>
              Use this amount
            </Button>
          </Box>
          {thing.offers.length > 0 && (
            <Box sx={{ display: "flex", flexWrap: "wrap", gap: 1 }}>
              {thing.offers.map((offer) => (
                <Button
                  key={offer.id}
                  variant="outlined"
                  onClick={() => onChoose({ key: thing.key, ingredient: offer.id })}
                >
                  {offer.name}
                </Button>
              ))}
            </Box>
          )}
          <Box>
            <Button onClick={() => onChoose({ key: thing.key, left_out: !thing.left_out })}>
              {thing.left_out ? "Add it back" : "Leave it out"}
            </Button>
          </Box>
        </Box>
      )}
    </Box>
  );
}
