import Box from "@mui/material/Box";
import TextField from "@mui/material/TextField";
import { useRef, useState } from "react";
import { useQuestion } from "../../api/ask";
import { answer, api, asking, type Drink, type Schemas } from "../../api/client";
import { colour } from "../../ui/theme";
import { insertStep } from "../editing/changes";
import type { Editor } from "../editing/editor";
import { keys } from "../../api/keys";

interface TypeStepsProps {
  editor: Editor;
  drink: Drink;
  /** Where the steps come among the others, and the vessel in hand. */
  at: number;
  vessel: string;
  /** How many steps were added, and the vessel in hand after them. */
  onAdded: (count: number, vessel: string) => void;
}

/** The next steps in one line: what is typed goes in, in order, and the line is free for the next. */
export function TypeSteps({ editor, drink, at, vessel, onAdded }: TypeStepsProps) {
  const [text, setText] = useState("");
  const [unread, setUnread] = useState<string[]>([]);
  const field = useRef<HTMLInputElement>(null);
  const reading = useRef(false);
  const { latest, error } = useQuestion(
    keys.typedSteps(drink.vessels, drink.steps.slice(0, at), vessel, text),
    (signal) =>
      answer(
        api.POST("/api/compute/typed-steps", {
          body: { drink, text, at, vessel },
          headers: asking("typed steps"),
          signal,
        }),
      ),
    false,
  );
  const add = (read: Schemas["TypedSteps"]) => {
    editor.edit((before) =>
      read.steps.reduce((d, step, i) => {
        const more = step.vessels.filter((v) => !d.vessels.some((known) => known.id === v.id));
        const [next] = insertStep({ ...d, vessels: [...d.vessels, ...more] }, at + i, step.action);
        return next;
      }, before),
    );
    setUnread(read.unread);
    // What wasn't understood stays to be typed better.
    setText(read.unread.join("; "));
    if (read.steps.length > 0) onAdded(read.steps.length, read.vessel);
    field.current?.focus();
  };
  return (
    <Box sx={{ mb: 1.5, maxWidth: 620 }}>
      <TextField
        fullWidth
        size="small"
        inputRef={field}
        label="Type the next steps"
        placeholder="2 cups hibiscus; boil 10 min; strain"
        // In an empty drink there is nothing else to do.
        autoFocus={drink.steps.length === 0}
        value={text}
        error={unread.length > 0}
        helperText={
          error?.message ??
          (unread.length > 0 &&
            `We couldn’t use “${unread.join("”, “")}” here. Type it another way: “40 g hibiscus”, “steep 20 min”, “strain into the jug”.`)
        }
        onChange={(event) => {
          setText(event.target.value);
          setUnread([]);
        }}
        onKeyDown={(event) => {
          if (event.key !== "Enter" || text.trim() === "") return;
          event.preventDefault();
          // A key that is pressed twice adds once.
          if (reading.current) return;
          reading.current = true;
          void latest(add).finally(() => (reading.current = false));
        }}
        slotProps={{ formHelperText: { role: "status", sx: { color: colour("stop") } } }}
      />
    </Box>
  );
}
