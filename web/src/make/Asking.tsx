import TextField from "@mui/material/TextField";
import { useState } from "react";
import { volume } from "../ui/format";
import { Measure } from "./Measure";
import { Otherwise } from "./Otherwise";
import { Sheet } from "./Sheet";
import { Taste } from "./Taste";
import type { AskingProps } from "./asked";

/** What is said of a batch beside "done". */
export function Asking(props: AskingProps) {
  switch (props.asked) {
    case "otherwise":
      return <Otherwise {...props} />;
    case "measure":
      return <Measure {...props} />;
    case "taste":
      return <Taste {...props} />;
    case "note":
      return <NoteDown {...props} />;
    case "finish":
      return <Finish {...props} />;
  }
}

function NoteDown({ say, onClose }: AskingProps) {
  const [text, setText] = useState("");
  return (
    <Sheet
      title="Note"
      act="Save the note"
      onSubmit={() => {
        if (text.trim()) void say({ note: { text: text.trim() } });
        onClose();
      }}
      onClose={onClose}
    >
      <TextField
        label="Your note"
        value={text}
        autoFocus
        multiline
        minRows={2}
        onChange={(event) => setText(event.target.value)}
        slotProps={{ htmlInput: { maxLength: 2000 } }}
      />
    </Sheet>
  );
}

function Finish({ view, say, onClose }: AskingProps) {
  const there = view.stands.report.profile?.volume_ml;
  const [place, setPlace] = useState("");
  const [note, setNote] = useState("");
  const [much, setMuch] = useState("");
  const [bottles, setBottles] = useState("");
  const [wrong, setWrong] = useState<string | undefined>();
  const count = bottles.trim() === "" ? undefined : Number(bottles);
  return (
    <Sheet
      title="Finish"
      act="Finish the batch"
      onSubmit={async () => {
        if (count !== undefined && !(Number.isInteger(count) && count > 0))
          return setWrong("Enter a whole number, or leave this empty.");
        onClose();
        await say({
          finished: {
            place: place.trim(),
            note: note.trim(),
            ...(count === undefined ? {} : { bottles: count }),
            ...(much.trim() === "" ? {} : { volume: much.trim() }),
          },
        });
      }}
      onClose={onClose}
    >
      <TextField
        label="Where is it now?"
        placeholder="refrigerator, upper shelf"
        value={place}
        autoFocus
        onChange={(event) => setPlace(event.target.value)}
        slotProps={{ htmlInput: { maxLength: 200 } }}
      />
      <TextField
        label="Volume"
        placeholder={there ? volume(there) : "1.2 l"}
        value={much}
        onChange={(event) => setMuch(event.target.value)}
        slotProps={{ htmlInput: { maxLength: 40 } }}
      />
      <TextField
        label="How many bottles or jars"
        value={bottles}
        error={wrong !== undefined}
        helperText={wrong}
        onChange={(event) => {
          setBottles(event.target.value);
          setWrong(undefined);
        }}
        slotProps={{ htmlInput: { inputMode: "numeric", maxLength: 4 } }}
      />
      <TextField
        label="How did it turn out?"
        value={note}
        multiline
        onChange={(event) => setNote(event.target.value)}
        slotProps={{ htmlInput: { maxLength: 2000 } }}
      />
    </Sheet>
  );
}
