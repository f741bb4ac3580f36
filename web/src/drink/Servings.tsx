import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Popover from "@mui/material/Popover";
import TextField from "@mui/material/TextField";
import { useState } from "react";
import { useStore } from "zustand";
import { answer, api, asking, type Drink, type Profile, type Size } from "../api/client";
import { colour } from "../ui/theme";
import { volume } from "../ui/format";
import { serveFrom, serving } from "./editing/changes";
import type { Editor, EditorState } from "./editing/editor";
import { laneOf } from "./editing/actions";

/** How much of it there is to be: glasses, a volume, or so many times as much. */
export function Servings({ editor }: { editor: Editor }) {
  // Drawn again when the words change, not with every change of the drink.
  const words = useStore(editor.store, (s) => inWords(s.drink, profileOf(s)));
  const isThere = useStore(editor.store, (s) => profileOf(s) !== undefined);
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const { drink, shown } = editor.store.getState();
  const profile = shown?.report.profile ?? undefined;
  return (
    <>
      <Button
        aria-haspopup="dialog"
        aria-label={`Servings: ${words}`}
        onClick={(event) => setAnchor(event.currentTarget)}
        disabled={!isThere}
        sx={{
          px: 0,
          minWidth: 0,
          color: colour("ink"),
          fontSize: 16,
          borderRadius: 0,
          "& > span": { borderBottom: `2px solid ${colour("cobalt")}`, lineHeight: 1.5 },
        }}
      >
        <span>{words}</span>
      </Button>
      <Popover
        open={anchor !== null}
        anchorEl={anchor}
        onClose={() => setAnchor(null)}
        anchorOrigin={{ vertical: "bottom", horizontal: "left" }}
        slotProps={{ paper: { "aria-label": "How much", role: "dialog" } }}
      >
        {anchor && profile && (
          <SizeForm
            editor={editor}
            drink={drink}
            profile={profile}
            onDone={() => setAnchor(null)}
          />
        )}
      </Popover>
    </>
  );
}

function profileOf(state: EditorState): Profile | undefined {
  return state.shown?.report.profile ?? undefined;
}

function inWords(drink: Drink, profile: Profile | undefined): string {
  const served = serving(drink);
  if (served) {
    const noun = served.glasses === 1 ? "glass" : "glasses";
    return `${served.glasses} ${noun} of ${glassOf(drink, served, profile)}`;
  }
  return profile ? `makes ${volume(profile.volume_ml)}` : "nothing added yet";
}

/** What a glass holds: what is poured into it, with what joins it there. */
function glassOf(
  drink: Drink,
  served: NonNullable<ReturnType<typeof serving>>,
  profile: Profile | undefined,
): string {
  const joins = drink.steps.some((s) => !("serve" in s.do) && laneOf(s.do) === served.glass);
  return joins && profile ? `${Math.round(profile.glass_ml / 5) * 5} ml` : served.size;
}

function SizeForm({
  editor,
  drink,
  profile,
  onDone,
}: {
  editor: Editor;
  drink: Drink;
  profile: Profile;
  onDone: () => void;
}) {
  const served = serving(drink);
  const [glasses, setGlasses] = useState(String(served?.glasses ?? 8));
  const [size, setSize] = useState(served ? glassOf(drink, served, profile) : "250 ml");
  const [all, setAll] = useState(volume(profile.volume_ml));
  const [wrong, setWrong] = useState<string | undefined>();

  /** Asks for another size of the drink, and takes it unless the drink has been changed meanwhile. */
  const resize = async (size: Size, prepare: (drink: Drink) => Drink = (drink) => drink) => {
    const before = editor.store.getState().drink;
    try {
      const body = { drink: prepare(before), size };
      const headers = asking("servings");
      const sized = await answer(api.POST("/api/compute/size", { body, headers }));
      if (editor.store.getState().drink !== before) return void resize(size, prepare);
      editor.edit(() => sized.drink);
      onDone();
    } catch (error) {
      setWrong((error as Error).message);
    }
  };
  const make = () => {
    const count = Number(glasses);
    if (!Number.isInteger(count) || count < 1) {
      setWrong(`Enter a whole number of glasses, such as 8.`);
      return;
    }
    const last = editor.store
      .getState()
      .shown?.report.vessels.findLast((v) => !v.strains && v.last?.liquid_ml);
    const from = served || !last ? undefined : serveFrom(last.id, count, size);
    void resize({ glasses: { glasses: count, size } }, from);
  };
  return (
    <Box sx={{ p: 2.5, width: 340, maxWidth: "100%" }}>
      <Box
        component="form"
        onSubmit={(event: React.FormEvent) => {
          event.preventDefault();
          make();
        }}
        sx={{ display: "flex", gap: 1, alignItems: "center" }}
      >
        <TextField
          size="small"
          label="Glasses"
          value={glasses}
          onChange={(event) => setGlasses(event.target.value)}
          slotProps={{ htmlInput: { inputMode: "numeric" } }}
          autoFocus
        />
        <TextField
          size="small"
          label="of"
          value={size}
          onChange={(event) => setSize(event.target.value)}
        />
        <Button type="submit" variant="contained" sx={{ flexShrink: 0 }}>
          Make this many glasses
        </Button>
      </Box>
      <Box
        component="form"
        onSubmit={(event: React.FormEvent) => {
          event.preventDefault();
          void resize({ volume: all });
        }}
        sx={{ display: "flex", gap: 1, alignItems: "center", mt: 2 }}
      >
        <TextField
          size="small"
          label="All of it"
          value={all}
          onChange={(event) => setAll(event.target.value)}
          sx={{ flex: 1 }}
        />
        <Button type="submit" variant="outlined" sx={{ flexShrink: 0 }}>
          Make this volume
        </Button>
      </Box>
      <Box role="group" aria-label="Times as much" sx={{ display: "flex", gap: 1, mt: 2 }}>
        {[
          ["½", 0.5],
          ["2 ×", 2],
          ["3 ×", 3],
          ["5 ×", 5],
        ].map(([text, factor]) => (
          <Button
            key={text}
            variant="outlined"
            sx={{ flex: 1, minWidth: 0, px: 0 }}
            onClick={() => void resize({ factor: factor as number })}
          >
            {text}
          </Button>
        ))}
      </Box>
      {wrong && (
        <Box role="alert" sx={{ mt: 1.5, color: colour("stop"), fontSize: 14 }}>
          {wrong}
        </Box>
      )}
    </Box>
  );
}
