import TextField from "@mui/material/TextField";
import { useState } from "react";
import { Finish } from "./Finish";
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
