import Box from "@mui/material/Box";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import { useState } from "react";
import type { Material, Schemas, VesselKind } from "../api/client";
import { useKitchen } from "../api/queries";
import { depth } from "../ui/format";
import { DeleteButton } from "../ui/DeleteButton";
import { colour } from "../ui/theme";
import { strainerKinds, vesselKinds } from "../drink/editing/actions";
import { VesselDrawing } from "../ui/vessel";
import look from "./Cupboard.module.css";
import { numberIn, numberWithin } from "../ui/reading";

type OwnVessel = Schemas["OwnVessel"];

export const materials: Record<Material, string> = {
  steel: "stainless steel",
  enamel: "enamel",
  glass: "glass",
  ceramic: "ceramic",
  plastic: "plastic",
  aluminium: "bare aluminium",
  copper: "copper",
  brass: "brass",
  cast_iron: "cast iron",
};

/** The vessels and strainers that stand in this kitchen. */
export function Vessels() {
  const { kitchen, change } = useKitchen();
  const [wrong, setWrong] = useState<string | undefined>();
  const vessels = kitchen.vessels ?? [];
  const save = async (edit: (vessels: OwnVessel[]) => OwnVessel[]) => {
    const problem = await change((k) => ({ ...k, vessels: edit(k.vessels ?? []) }));
    setWrong(problem);
    return problem;
  };
  return (
    <Box sx={{ maxWidth: 900 }}>
      {vessels.length === 0 && (
        <Box sx={{ color: colour("muted"), mb: 2 }}>
          No vessels yet. Add your pots, jugs, bottles and sieves, and we'll check what fits.
        </Box>
      )}
      <Box component="ul" sx={{ listStyle: "none", m: 0, p: 0 }}>
        {vessels.map((vessel, i) => (
          <Row
            key={`${i}-${vessel.name}-${vessel.capacity}`}
            vessel={vessel}
            onSave={(next) => save((all) => all.map((v, n) => (n === i ? next : v)))}
            onRemove={() => void save((all) => all.filter((_, n) => n !== i))}
          />
        ))}
      </Box>
      <New onAdd={(vessel) => save((all) => [...all, vessel])} />
      {wrong && (
        <Box role="alert" sx={{ color: colour("stop"), mt: 1 }}>
          {wrong}
        </Box>
      )}
    </Box>
  );
}

interface RowProps {
  vessel: OwnVessel;
  onSave: (next: OwnVessel) => Promise<string | undefined>;
  onRemove: () => void;
}

function Row({ vessel, onSave, onRemove }: RowProps) {
  const [name, setName] = useState(vessel.name);
  const [capacity, setCapacity] = useState(vessel.capacity);
  const wide = vessel.diameter_mm == null ? "" : depth(vessel.diameter_mm);
  const [diameter, setDiameter] = useState(wide);
  const [count, setCount] = useState(String(vessel.count ?? 1));
  const [wrong, setWrong] = useState<string | undefined>();
  const [miscounted, setMiscounted] = useState<string | undefined>();
  const strains = strainerKinds.includes(vessel.kind);
  const commit = async () => {
    const many = await numberWithin("number", count, 1, 200);
    setMiscounted(many.wrong);
    if (many.wrong) return;
    const typed = diameter.trim() ? await numberIn("millimetres", diameter) : undefined;
    setWrong(typed?.wrong);
    if (typed?.wrong) return;
    // What is shown is rounded, and changes nothing by being left.
    const across = diameter === wide ? (vessel.diameter_mm ?? null) : (typed?.number ?? null);
    const next: OwnVessel = {
      ...vessel,
      name: name.trim(),
      capacity: capacity.trim(),
      diameter_mm: across,
      count: Math.round(many.number),
    };
    if (
      JSON.stringify(next) !==
      JSON.stringify({
        ...vessel,
        diameter_mm: vessel.diameter_mm ?? null,
        count: vessel.count ?? 1,
      })
    ) {
      void onSave(next);
    }
  };
  const blur = {
    onBlur: commit,
    onKeyDown: (e: React.KeyboardEvent) => e.key === "Enter" && commit(),
  };
  return (
    <li className={look.vessel} aria-label={vessel.name}>
      <svg width={64} height={56} aria-hidden>
        <g transform="translate(28 52)">
          <VesselDrawing
            kind={vessel.kind}
            width={34}
            height={tall[vessel.kind] ?? 36}
            fill={0}
            liquid="transparent"
          />
        </g>
      </svg>
      <TextField
        size="small"
        label="Name"
        value={name}
        onChange={(e) => setName(e.target.value)}
        {...blur}
      />
      <TextField
        size="small"
        label={strains ? "Holds" : "Holds to the brim"}
        value={capacity}
        onChange={(e) => setCapacity(e.target.value)}
        {...blur}
      />
      <TextField
        size="small"
        label="Across"
        value={diameter}
        error={wrong !== undefined}
        helperText={wrong}
        placeholder="usual"
        onChange={(e) => setDiameter(e.target.value)}
        {...blur}
      />
      <TextField
        select
        size="small"
        label="Made of"
        value={vessel.material ?? ""}
        onChange={(e) => void onSave({ ...vessel, material: (e.target.value || null) as Material })}
      >
        <MenuItem value="">not given</MenuItem>
        {Object.entries(materials).map(([value, text]) => (
          <MenuItem key={value} value={value}>
            {text}
          </MenuItem>
        ))}
      </TextField>
      <TextField
        size="small"
        label="How many"
        value={count}
        error={miscounted !== undefined}
        helperText={miscounted}
        onChange={(e) => setCount(e.target.value)}
        {...blur}
      />
      <DeleteButton
        label={`Delete ${vessel.name}`}
        onDelete={onRemove}
        sx={{ px: 0.5, minWidth: 0 }}
      >
        Delete
      </DeleteButton>
    </li>
  );
}

const tall: Partial<Record<VesselKind, number>> = {
  pot: 26,
  bowl: 22,
  jug: 38,
  blender: 44,
  pitcher: 46,
  bottle: 50,
  glass: 34,
  colander: 18,
  sieve: 18,
  fine_sieve: 18,
  cloth: 24,
  bag: 28,
};

const usual: Record<VesselKind, string> = {
  pot: "3 l",
  bowl: "2 l",
  jug: "1.5 l",
  blender: "1.75 l",
  colander: "2 l",
  sieve: "1 l",
  fine_sieve: "1 l",
  cloth: "1.5 l",
  bag: "1.5 l",
  pitcher: "2.5 l",
  bottle: "1 l",
  glass: "330 ml",
};

function New({ onAdd }: { onAdd: (vessel: OwnVessel) => Promise<string | undefined> }) {
  return (
    <TextField
      select
      size="small"
      label="Add a vessel"
      value=""
      onChange={(event) => {
        const kind = event.target.value as VesselKind;
        void onAdd({ name: vesselKinds[kind], kind, capacity: usual[kind], count: 1 });
      }}
      sx={{ minWidth: 200, mt: 2 }}
    >
      {Object.entries(vesselKinds).map(([kind, name]) => (
        <MenuItem key={kind} value={kind}>
          {name}
        </MenuItem>
      ))}
    </TextField>
  );
}
