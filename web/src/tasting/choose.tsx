import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { answer, api, type Drink } from "../api/client";
import { useDrinksToChoose } from "../api/queries";
import { colour } from "../ui/theme";
import { MarkSign } from "./Mark";
import { useTasterActions, useTasters } from "./queries";
import { keys } from "../api/keys";

/** Who sits at the table: those who are known, and somebody new in one line. */
export function WhoTastes(props: {
  chosen: string[];
  onChoose: (ids: string[]) => void;
  single?: boolean;
}) {
  const { chosen, onChoose, single = false } = props;
  const { add } = useTasterActions();
  const [name, setName] = useState("");
  const toggle = (id: string) => {
    if (single) return onChoose([id]);
    onChoose(chosen.includes(id) ? chosen.filter((c) => c !== id) : [...chosen, id]);
  };
  const put = () =>
    name.trim() &&
    add.mutate(
      { name },
      {
        onSuccess: (made) => {
          setName("");
          onChoose(single ? [made.id] : [...chosen, made.id]);
        },
      },
    );
  return (
    <Box sx={{ display: "grid", gap: 1 }}>
      <Seats label="Tasters" chosen={chosen} onToggle={toggle} />
      <Box
        component="form"
        onSubmit={(event: React.FormEvent) => {
          event.preventDefault();
          put();
        }}
        sx={{ display: "flex", gap: 1, maxWidth: 420 }}
      >
        <TextField
          size="small"
          label="Add a taster"
          value={name}
          onChange={(event) => setName(event.target.value)}
          sx={{ flex: 1 }}
          slotProps={{ htmlInput: { maxLength: 60, dir: "auto" } }}
        />
        <Button type="submit" disabled={!name.trim() || add.isPending}>
          Add
        </Button>
      </Box>
      {add.error && (
        <Box role="alert" sx={{ color: colour("stop") }}>
          {add.error.message}
        </Box>
      )}
    </Box>
  );
}

/** Those who are known, each to be touched. */
export function Seats(props: { label: string; chosen: string[]; onToggle: (id: string) => void }) {
  const { label, chosen, onToggle } = props;
  const { data: tasters } = useTasters();
  return (
    <Box role="group" aria-label={label} sx={{ display: "flex", flexWrap: "wrap", gap: 1 }}>
      {tasters?.map(({ id, taster }) => {
        const here = chosen.includes(id);
        return (
          <Box
            key={id}
            component="button"
            type="button"
            aria-pressed={here}
            onClick={() => onToggle(id)}
            sx={{
              font: "inherit",
              fontWeight: 600,
              color: "inherit",
              minHeight: 44,
              px: 1.75,
              display: "inline-flex",
              alignItems: "center",
              gap: 1,
              maxWidth: "100%",
              borderRadius: "12px",
              cursor: "pointer",
              bgcolor: colour(here ? "wash" : "enamel"),
              border: `2px solid ${colour(here ? "cobalt" : "hairline")}`,
            }}
          >
            <MarkSign mark={taster.mark} />
            <Box
              component="span"
              dir="auto"
              sx={{ overflow: "hidden", textOverflow: "ellipsis", whiteSpace: "nowrap" }}
            >
              {taster.name}
            </Box>
          </Box>
        );
      })}
    </Box>
  );
}

/** The drinks of the shelf, to choose one. */
export function WhichDrink(props: {
  label: string;
  chosen: string;
  onChoose: (id: string) => void;
  /** What may stand there instead of a drink. */
  none?: string;
}) {
  const { label, chosen, onChoose, none } = props;
  const { data: shelf } = useDrinksToChoose();
  return (
    <TextField
      select
      size="small"
      label={label}
      value={shelf?.drinks.some((d) => d.id === chosen) ? chosen : ""}
      onChange={(event) => onChoose(event.target.value)}
      slotProps={{ select: { native: true } }}
      sx={{ maxWidth: 420, width: "100%" }}
    >
      <option value="">{none ?? ""}</option>
      {shelf?.drinks.map((drink) => (
        <option key={drink.id} value={drink.id}>
          {drink.name}
        </option>
      ))}
    </TextField>
  );
}

/** A drink of the shelf. */
export function useDrink(id: string) {
  return useQuery({
    queryKey: keys.drink(id, "to taste"),
    queryFn: () => answer(api.GET("/api/drinks/{id}", { params: { path: { id } } })),
    enabled: id !== "",
    staleTime: 0,
    select: (view): Drink => view.drink,
  });
}
