import Autocomplete from "@mui/material/Autocomplete";
import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import { useState } from "react";
import { useShelf } from "../api/queries";
import { TitledDialog } from "../ui/TitledDialog";
import { colour } from "../ui/theme";
import { FillBottles } from "./FillBottles";

/** Puts bottles of a drink there that was not made step by step here. */
export default function PutIn({ onClose }: { onClose: () => void }) {
  const { data } = useShelf({ find: "", sort: "name" }, 4);
  const [drink, setDrink] = useState<{ id: string; name: string; volume_ml: number } | null>(null);
  return (
    <TitledDialog title="Add a bottle" width={520} onClose={onClose}>
      <Box sx={{ color: colour("muted"), fontSize: 15 }}>
        We work out how long it keeps from the drink.
      </Box>
      <Autocomplete
        options={data?.drinks ?? []}
        getOptionLabel={(entry) => entry.name}
        isOptionEqualToValue={(a, b) => a.id === b.id}
        onChange={(_, chosen) => setDrink(chosen)}
        renderInput={(params) => <TextField {...params} label="Which drink" autoFocus />}
      />
      {drink && (
        <FillBottles
          key={drink.id}
          of={{ drink: drink.id }}
          ml={drink.volume_ml}
          onDone={onClose}
        />
      )}
      <Box>
        <Button onClick={onClose}>Not now</Button>
      </Box>
    </TitledDialog>
  );
}
