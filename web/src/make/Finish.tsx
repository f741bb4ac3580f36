import Box from "@mui/material/Box";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import type { Place, VesselKind } from "../api/client";
import { newKey } from "../api/newKey";
import { colour } from "../ui/theme";
import { putBottles } from "../kept/putBottles";
import { places } from "../kept/words";
import { volume } from "../ui/format";
import { readAs, useRead } from "../ui/reading";
import { Trouble } from "../ui/Trouble";
import type { AskingProps } from "./asked";
import { Sheet } from "./Sheet";

const vessels: [VesselKind, string][] = [
  ["bottle", "bottles or jars"],
  ["jug", "jugs"],
  ["bowl", "bowls"],
];

/** Asks once: how much there is, what it is in, where it stands. */
export function Finish({ view, say, onClose }: AskingProps) {
  const client = useQueryClient();
  const there = view.stands.report.profile?.volume_ml;
  const [much, setMuch] = useState("");
  const [bottles, setBottles] = useState("");
  const [vessel, setVessel] = useState<VesselKind>("bottle");
  const [place, setPlace] = useState<Place>("refrigerator");
  const [spot, setSpot] = useState("");
  const [note, setNote] = useState("");
  const [wrong, setWrong] = useState<{ much?: string; bottles?: string }>({});
  const [fault, setFault] = useState<Error | undefined>();
  const [key] = useState(newKey);
  const read = useRead("amount", much);
  const count = bottles.trim() === "" ? undefined : Number(bottles);
  const ml = Number.isFinite(read.number) ? read.number : there;
  const finish = async () => {
    if (count !== undefined && !(Number.isInteger(count) && count > 0 && count <= 60))
      return setWrong({ bottles: "Enter a whole number, or leave this empty." });
    const typed = much.trim() === "" ? undefined : await readAs("amount", much);
    if (typed && typed.read?.number == null)
      return setWrong({ much: typed.unread?.message ?? "Enter a volume, such as 1.2 l." });
    const all = typed?.read?.number ?? there;
    const name = places.find(([value]) => value === place)?.[1].toLowerCase();
    const heard = await say({
      finished: {
        place: [name, spot.trim()].filter(Boolean).join(", "),
        note: note.trim(),
        ...(count === undefined ? {} : { bottles: count }),
        ...(typed?.read ? { volume: typed.read.text } : {}),
      },
    });
    if (!heard) return onClose();
    if (count === undefined || view.practice || !all) return onClose();
    const each = all / count;
    try {
      const bottles = Array.from({ length: count }, () => ({ vessel, ml: each, place }));
      await putBottles(client, { batch: view.id, bottles }, key);
      onClose();
    } catch (fault) {
      setFault(fault as Error);
    }
  };
  return (
    <Sheet
      title="Finish"
      act="Finish the batch"
      onSubmit={() => void finish()}
      onClose={onClose}
      width={520}
    >
      <TextField
        label="How much is there?"
        placeholder={there ? `${volume(there)}, as worked out` : "1.2 l"}
        value={much}
        autoFocus
        error={wrong.much !== undefined}
        helperText={wrong.much ?? (much.trim() ? (read.wrong ?? read.understood) : undefined)}
        onChange={(event) => {
          setMuch(event.target.value);
          setWrong({});
        }}
        slotProps={{ htmlInput: { maxLength: 40 } }}
      />
      <Box sx={{ display: "grid", gridTemplateColumns: "1fr 1fr", gap: 1.5 }}>
        <TextField
          label="How many"
          value={bottles}
          error={wrong.bottles !== undefined}
          helperText={
            wrong.bottles ??
            (count && ml && count > 0 ? `${volume(ml / count)} in each` : undefined)
          }
          onChange={(event) => {
            setBottles(event.target.value);
            setWrong({});
          }}
          slotProps={{ htmlInput: { inputMode: "numeric", maxLength: 4 } }}
        />
        <TextField
          select
          label="Kept in"
          value={vessel}
          onChange={(event) => setVessel(event.target.value as VesselKind)}
        >
          {vessels.map(([kind, name]) => (
            <MenuItem key={kind} value={kind}>
              {name}
            </MenuItem>
          ))}
        </TextField>
        <TextField
          select
          label="Where is it now?"
          value={place}
          onChange={(event) => setPlace(event.target.value as Place)}
        >
          {places.map(([value, name]) => (
            <MenuItem key={value} value={value}>
              {name}
            </MenuItem>
          ))}
        </TextField>
        <TextField
          label="Where exactly"
          placeholder="upper shelf"
          value={spot}
          onChange={(event) => setSpot(event.target.value)}
          slotProps={{ htmlInput: { maxLength: 160 } }}
        />
      </Box>
      <TextField
        label="How did it turn out?"
        value={note}
        multiline
        onChange={(event) => setNote(event.target.value)}
        slotProps={{ htmlInput: { maxLength: 2000 } }}
      />
      {fault && (
        <Box sx={{ color: colour("stop") }}>
          The batch is finished. The bottles couldn’t be saved:
          <Trouble error={fault} />
        </Box>
      )}
    </Sheet>
  );
}
