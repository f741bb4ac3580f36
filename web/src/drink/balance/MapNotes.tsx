import Button from "@mui/material/Button";
import { useState } from "react";
import { useSettings } from "../../api/queries";
import look from "./MapNotes.module.css";

const notes = [
  "The dot is your drink. Further right is sweeter, further up is more sour.",
  "The lines divide the plate by balance, sugar to acid: along a line it stays the same, only stronger.",
  "Touch the plate where you want the drink to be. Keen Pitcher works out the amounts.",
];

/** The map explains itself once, in three short notes, one at a time. */
export function MapNotes() {
  const { settings, change, known } = useSettings();
  const [at, setAt] = useState(0);
  if (!known || settings.map_known) return null;
  const last = at === notes.length - 1;
  const close = () => change((s) => ({ ...s, map_known: true }));
  return (
    <div className={look.note} role="note" aria-label="About the map">
      <div aria-live="polite">{notes[at]}</div>
      <div className={look.foot}>
        <span>
          {at + 1} of {notes.length}
        </span>
        {!last && (
          <Button onClick={close} sx={{ minHeight: 44, px: 1 }}>
            Close
          </Button>
        )}
        <Button
          variant="outlined"
          onClick={() => (last ? close() : setAt(at + 1))}
          sx={{ minHeight: 44 }}
        >
          {last ? "Close" : "Next"}
        </Button>
      </div>
    </div>
  );
}
