import Box from "@mui/material/Box";
import Checkbox from "@mui/material/Checkbox";
import FormControlLabel from "@mui/material/FormControlLabel";
import { useState } from "react";
import { answer, api, asking, type Drink } from "../../api/client";
import { useDrinksToChoose } from "../../api/queries";
import { ShoppingList } from "./ShoppingList";

/** What to buy for this drink and others. */
export function Shopping({ id, drink }: { id: string; drink: Drink }) {
  const { data: shelf } = useDrinksToChoose();
  const [others, setOthers] = useState<string[]>([]);
  return (
    <ShoppingList
      // What is ticked belongs to the drinks that the list is for.
      listId={[id, ...others].sort().join("+")}
      of={drink}
      ask={async (how, signal) => {
        const more = await Promise.all(
          others.map((other) =>
            answer(api.GET("/api/drinks/{id}", { params: { path: { id: other } }, signal })),
          ),
        );
        const drinks = [drink, ...more.map((view) => view.drink)];
        const headers = asking("shopping");
        return answer(
          api.POST("/api/compute/shopping", { body: { drinks, how }, headers, signal }),
        );
      }}
    >
      <Box component="section" aria-label="Drinks on the list" className="no-print">
        <Box sx={{ fontWeight: 600 }}>Also buy for</Box>
        {shelf?.drinks
          .filter((d) => d.id !== id && d.volume_ml > 0)
          .map((d) => (
            <FormControlLabel
              key={d.id}
              sx={{ display: "flex", minHeight: 40 }}
              label={d.name}
              control={
                <Checkbox
                  checked={others.includes(d.id)}
                  onChange={(event) =>
                    setOthers(
                      event.target.checked
                        ? [...others, d.id]
                        : others.filter((other) => other !== d.id),
                    )
                  }
                />
              }
            />
          ))}
      </Box>
    </ShoppingList>
  );
}
