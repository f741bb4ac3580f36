import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import type { Place, VesselKind } from "../api/client";
import { Trouble } from "../ui/Trouble";
import { putBottles } from "./putBottles";
import { places } from "./words";
import { newKey } from "../api/newKey";

interface FillBottlesProps {
  of: { batch: string } | { drink: string };
  /** How much there is of it, ml. */
  ml: number;
  bottles?: number | undefined;
  onDone: () => void;
}

/** Into how many bottles or jugs of which size something is filled, and where they stand. */
export function FillBottles({ of, ml, bottles, onDone }: FillBottlesProps) {
  const client = useQueryClient();
  const [vessel, setVessel] = useState<VesselKind>("bottle");
  const [count, setCount] = useState(String(bottles ?? Math.max(1, Math.ceil(ml / 720))));
  const many = Math.min(Math.max(Math.round(Number(count)) || 0, 0), 60);
  const usual = many > 0 ? Math.floor(ml / many / 10) * 10 : 0;
  const [each, setEach] = useState<string | undefined>();
  const [place, setPlace] = useState<Place>("refrigerator");
  const amount = Number(each ?? usual);
  const put = useMutation({
    mutationFn: () =>
      putBottles(
        client,
        { ...of, bottles: Array.from({ length: many }, () => ({ vessel, ml: amount, place })) },
        newKey(),
      ),
    onSuccess: onDone,
  });
  return (
    <Box
      component="form"
      onSubmit={(event) => {
        event.preventDefault();
        put.mutate();
      }}
      sx={{ display: "flex", flexWrap: "wrap", alignItems: "center", gap: 1 }}
    >
      <TextField
        size="small"
        label="How many"
        value={count}
        onChange={(event) => setCount(event.target.value)}
        slotProps={{ htmlInput: { inputMode: "numeric" } }}
        sx={{ width: 96 }}
      />
      <TextField
        select
        size="small"
        label="Kept in"
        value={vessel}
        onChange={(event) => setVessel(event.target.value as VesselKind)}
        sx={{ width: 110 }}
      >
        <MenuItem value="bottle">bottles</MenuItem>
        <MenuItem value="jug">jugs</MenuItem>
        <MenuItem value="bowl">bowls</MenuItem>
      </TextField>
      <TextField
        size="small"
        label="ml in each"
        value={each ?? String(usual)}
        onChange={(event) => setEach(event.target.value)}
        slotProps={{ htmlInput: { inputMode: "numeric" } }}
        sx={{ width: 110 }}
      />
      <TextField
        select
        size="small"
        label="Where"
        value={place}
        onChange={(event) => setPlace(event.target.value as Place)}
        sx={{ width: 140 }}
      >
        {places.map(([value, name]) => (
          <MenuItem key={value} value={value}>
            {name.toLowerCase()}
          </MenuItem>
        ))}
      </TextField>
      <Button
        type="submit"
        variant="contained"
        disabled={put.isPending || many === 0 || !(amount > 0)}
      >
        Put {many === 1 ? "it" : "them"} there
      </Button>
      <Trouble error={put.error ?? undefined} />
    </Box>
  );
}
