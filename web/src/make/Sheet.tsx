import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import type { FormEvent, ReactNode } from "react";
import type { BatchView } from "../api/client";
import { colour } from "../ui/theme";
import { TitledDialog } from "../ui/TitledDialog";

interface SheetProps {
  title: string;
  act: string;
  onSubmit: () => void;
  onClose: () => void;
  children: ReactNode;
  width?: number;
  /** Whether there is anything to say yet. */
  ready?: boolean;
  /** Whether what it ends with stays in sight: where keys fill a phone's screen. */
  pinned?: boolean;
}

/** A sheet on which something is said of a batch. */
export function Sheet({
  title,
  act,
  onSubmit,
  onClose,
  children,
  width = 480,
  ready = true,
  pinned = false,
}: SheetProps) {
  return (
    <TitledDialog title={title} width={width} onClose={onClose}>
      <Box
        component="form"
        onSubmit={(event: FormEvent) => {
          event.preventDefault();
          onSubmit();
        }}
        sx={{ display: "grid", gap: 2 }}
      >
        {children}
        <Box
          sx={{
            display: "flex",
            justifyContent: "flex-end",
            gap: 1,
            ...(pinned && { position: "sticky", bottom: 0, py: 1, bgcolor: colour("enamel") }),
          }}
        >
          <Button onClick={onClose}>Cancel</Button>
          <Button type="submit" variant="contained" disabled={!ready} sx={{ minHeight: 48, px: 3 }}>
            {act}
          </Button>
        </Box>
      </Box>
    </TitledDialog>
  );
}

/** The vessels that hold something to be measured. */
export function holders(view: BatchView) {
  return view.stands.report.vessels.filter((v) => !v.strains && v.id !== "poured_away");
}

/** The vessel that is worked on now. */
export function vesselOf(view: BatchView, place: number): string {
  const { steps, report, drink } = view.stands;
  const done = steps.filter((s) => s.state !== "ahead");
  const last = done.at(-1) ?? steps[place];
  const frame = report.frames.find((f) => f.step === last?.id);
  const all = holders(view);
  const there = frame?.states.map((s) => s.vessel).filter((id) => all.some((v) => v.id === id));
  return there?.at(-1) ?? all[0]?.id ?? drink.vessels[0]!.id;
}

export function VesselField(props: {
  view: BatchView;
  value: string;
  onChange: (vessel: string) => void;
}) {
  return (
    <TextField
      select
      label="In which vessel"
      value={props.value}
      onChange={(event) => props.onChange(event.target.value)}
    >
      {holders(props.view).map((vessel) => (
        <MenuItem key={vessel.id} value={vessel.id}>
          {vessel.name}
        </MenuItem>
      ))}
    </TextField>
  );
}
