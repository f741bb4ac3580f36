import Box from "@mui/material/Box";
import { useState } from "react";
import { useNavigate } from "react-router";
import type { Drink } from "../api/client";
import { useShelfActions, useStartingPoints } from "../api/queries";
import { colour, displayFont } from "../ui/theme";
import { StartingPoint } from "./StartingPoint";

/** Saves a drink and opens it; what is wrong with it, if anything is. */
export function useStart() {
  const { create } = useShelfActions();
  const [wrong, setWrong] = useState<string | undefined>();
  const go = useNavigate();
  // The list that it was chosen from is gone as soon as there is a drink: what follows mustn't hang on it.
  const start = (drink: Drink) =>
    void create.mutateAsync(drink).then(
      (made) => go(`/drinks/${made.id}`),
      (error: Error) => setWrong(error.message),
    );
  return { start, wrong, setWrong };
}

/** The drinks to start from, by kind: each is opened when it is chosen. */
export function StartingPoints({ narrow = false }: { narrow?: boolean }) {
  const { data: starts = [] } = useStartingPoints();
  const { start, wrong } = useStart();
  const groups = [...new Set(starts.map((one) => one.group))];
  return (
    <>
      {wrong && (
        <Box role="alert" sx={{ color: colour("stop"), mb: 2 }}>
          {wrong}
        </Box>
      )}
      {groups.map((group) => (
        <Box key={group} component="section" aria-label={group} sx={{ mb: 2 }}>
          {group !== "Blank" && (
            <Box
              component="h2"
              sx={{ ...displayFont, fontSize: narrow ? 17 : 20, fontWeight: 700, m: 0 }}
            >
              {group}
            </Box>
          )}
          <Box
            component="ul"
            sx={{
              listStyle: "none",
              m: 0,
              p: 0,
              display: "grid",
              gridTemplateColumns: {
                xs: "1fr",
                sm: "1fr 1fr",
                lg: narrow ? "1fr 1fr" : "1fr 1fr 1fr",
              },
              columnGap: 3,
            }}
          >
            {starts
              .filter((one) => one.group === group)
              .map((one) => (
                <li key={one.id}>
                  <StartingPoint start={one} onBegin={() => start(one.drink)} />
                </li>
              ))}
          </Box>
        </Box>
      ))}
    </>
  );
}
