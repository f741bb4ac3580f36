import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { useQueryClient } from "@tanstack/react-query";
import { lazy, Suspense, useState } from "react";
import { answer, api } from "../api/client";
import { useCondition } from "../api/queries";
import { DeleteButton } from "../ui/DeleteButton";
import { when } from "../ui/format";
import { Note } from "../ui/Note";
import { again, keys } from "../api/keys";

const House = lazy(() => import("./House"));

const names: Record<string, string> = { kitchen: "cupboard", choices: "choices" };

/** What is wrong with the shelf itself, and what can be saved of it. */
export function ShelfTroubles() {
  const { data } = useCondition();
  const client = useQueryClient();
  const [restoring, setRestoring] = useState(false);
  if (!data) return null;
  const letGo = async (id: number) => {
    await answer(api.DELETE("/api/shelf/set-aside/{id}", { params: { path: { id } } }));
    await again(client, keys.condition());
  };
  return (
    <>
      {restoring && (
        <Suspense>
          <House onClose={() => setRestoring(false)} />
        </Suspense>
      )}
      {data.message && (
        <Note
          kind="stop"
          action={
            data.condition === "damaged" && (
              <Box sx={{ display: "flex", flexWrap: "wrap" }}>
                <Button onClick={() => setRestoring(true)}>Restore a backup</Button>
                <Button component="a" href="/api/shelf/rescue" download="keen-pitcher-shelf.json">
                  Save everything readable
                </Button>
              </Box>
            )
          }
        >
          {data.message}
        </Note>
      )}
      {data.set_aside.map((it) => (
        <Note
          key={it.id}
          kind="notice"
          action={
            <Box sx={{ display: "flex", flexWrap: "wrap" }}>
              <Button
                component="a"
                href={`/api/shelf/set-aside/${it.id}`}
                download={`${it.what}.json`}
              >
                Save its text
              </Button>
              <DeleteButton onDelete={() => void letGo(it.id)}>Delete it</DeleteButton>
            </Box>
          }
        >
          Your {names[it.what] ?? it.what} couldn't be read ({when(it.at)}) and started fresh. The
          text as it was is kept: {it.why}
        </Note>
      ))}
    </>
  );
}
