import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import { useState, type ReactNode } from "react";
import type { PlanFile, PlanAnswer } from "../api/client";
import { useShelf } from "../api/queries";
import { TitledDialog } from "../ui/TitledDialog";
import { colour } from "../ui/theme";
import { Standing } from "../shelf/Standing";
import { meansOf, served, withDrink, withoutDrink } from "./changes";
import { moved } from "./times";
import type { Edit } from "./planEditor";
import { numberWithin } from "../ui/reading";
import { TypedField } from "../ui/TypedField";

/** A value that is changed when the field is left; what can't be a value is put back. */
function Field(props: {
  label: string;
  value: string;
  type: string;
  onSet: (value: string) => void;
  width?: number;
}) {
  return (
    <TextField
      key={props.value}
      size="small"
      label={props.label}
      type={props.type}
      defaultValue={props.value}
      onBlur={(event) => {
        if (event.target.value && event.target.value !== props.value)
          props.onSet(event.target.value);
      }}
      onKeyDown={(event) => event.key === "Enter" && (event.target as HTMLElement).blur()}
      sx={{ width: props.width ?? 200 }}
    />
  );
}

/** One more or one fewer of something. */
function Count(props: {
  label: string;
  value: number;
  least: number;
  most: number;
  onSet: (value: number) => void;
}) {
  const { label, value, least, most, onSet } = props;
  return (
    <Box sx={{ display: "flex", alignItems: "center", gap: 1 }} role="group" aria-label={label}>
      <Box sx={{ flex: 1 }}>{label}</Box>
      <Button
        variant="outlined"
        aria-label={`Fewer: ${label}`}
        disabled={value <= least}
        onClick={() => onSet(value - 1)}
        sx={{ minWidth: 44, px: 0 }}
      >
        −
      </Button>
      <Box sx={{ width: 32, textAlign: "center", fontWeight: 700 }}>{value}</Box>
      <Button
        variant="outlined"
        aria-label={`More: ${label}`}
        disabled={value >= most}
        onClick={() => onSet(value + 1)}
        sx={{ minWidth: 44, px: 0 }}
      >
        +
      </Button>
    </Box>
  );
}

interface DialogProps {
  plan: PlanFile;
  edit: Edit;
  onClose: () => void;
}

/** When it is served. */
export function ServingDialog({ plan, edit, onClose }: DialogProps) {
  return (
    <TitledDialog title="Serving" width={420} onClose={onClose}>
      <Field
        label="Day and time"
        type="datetime-local"
        value={plan.serving.slice(0, 16)}
        width={260}
        onSet={(serving) => edit((p) => served(p, serving))}
      />
      <Box sx={{ display: "flex", flexWrap: "wrap", gap: 1 }}>
        {[
          ["An hour earlier", -60],
          ["An hour later", 60],
          ["A day later", 1440],
        ].map(([name, by]) => (
          <Button
            key={name}
            variant="outlined"
            onClick={() => edit((p) => served(p, moved(p.serving, by as number)))}
          >
            {name}
          </Button>
        ))}
      </Box>
      <Button variant="contained" onClick={onClose} sx={{ justifySelf: "end" }}>
        Done
      </Button>
    </TitledDialog>
  );
}

/** Hands, rings, room in the refrigerator. */
export function MeansDialog({ plan, edit, onClose }: DialogProps) {
  const means = meansOf(plan);
  const set = (change: Partial<typeof means>) =>
    edit((p) => ({ ...p, means: { ...means, ...change } }));
  return (
    <TitledDialog title="Kitchen" width={420} onClose={onClose}>
      <Count
        label="Cooks"
        value={means.cooks}
        least={1}
        most={12}
        onSet={(cooks) => set({ cooks })}
      />
      <Count
        label="Burners"
        value={means.rings}
        least={0}
        most={12}
        onSet={(rings) => set({ rings })}
      />
      <TypedField
        label="Room in the refrigerator, litres"
        width={260}
        value={String(means.refrigerator_l)}
        onType={async (text) => {
          const { number, wrong } = await numberWithin("litres", text, 0, 1000, "litres");
          if (!wrong) set({ refrigerator_l: number });
          return wrong;
        }}
      />
      <Button variant="contained" onClick={onClose} sx={{ justifySelf: "end" }}>
        Done
      </Button>
    </TitledDialog>
  );
}

/** Hours in which nobody works. */
export function HoursDialog({ plan, edit, onClose }: DialogProps) {
  const spoken = plan.spoken_for ?? [];
  const noon = `${plan.serving.slice(0, 10)}T12:00`;
  return (
    <TitledDialog title="Times when nobody is free" width={520} onClose={onClose}>
      {plan.night ? (
        <Box sx={{ display: "flex", flexWrap: "wrap", gap: 1, alignItems: "center" }}>
          <Field
            label="Night from"
            type="time"
            width={130}
            value={plan.night.from.slice(0, 5)}
            onSet={(from) => edit((p) => (p.night ? { ...p, night: { ...p.night, from } } : p))}
          />
          <Field
            label="to"
            type="time"
            width={130}
            value={plan.night.to.slice(0, 5)}
            onSet={(to) => edit((p) => (p.night ? { ...p, night: { ...p.night, to } } : p))}
          />
          <Button onClick={() => edit((p) => ({ ...p, night: undefined }))}>No quiet hours</Button>
        </Box>
      ) : (
        <Button
          variant="outlined"
          sx={{ justifySelf: "start" }}
          onClick={() => edit((p) => ({ ...p, night: { from: "22:00", to: "07:00" } }))}
        >
          Keep the night free
        </Button>
      )}
      <Box component="ul" sx={{ listStyle: "none", m: 0, p: 0, display: "grid", gap: 1.5 }}>
        {spoken.map((hours, i) => {
          const set = (change: Partial<typeof hours>) =>
            edit((p) => ({
              ...p,
              spoken_for: (p.spoken_for ?? []).map((h, at) => (at === i ? { ...h, ...change } : h)),
            }));
          return (
            <Box component="li" key={i} sx={{ display: "flex", flexWrap: "wrap", gap: 1 }}>
              <Field
                label="Busy from"
                type="datetime-local"
                width={215}
                value={hours.from.slice(0, 16)}
                onSet={(from) => set({ from })}
              />
              <Field
                label="to"
                type="datetime-local"
                width={215}
                value={hours.to.slice(0, 16)}
                onSet={(to) => set({ to })}
              />
              <Button
                onClick={() =>
                  edit((p) => ({
                    ...p,
                    spoken_for: (p.spoken_for ?? []).filter((_, at) => at !== i),
                  }))
                }
              >
                Delete
              </Button>
            </Box>
          );
        })}
      </Box>
      <Box sx={{ display: "flex", flexWrap: "wrap", gap: 1 }}>
        <Button
          variant="outlined"
          onClick={() =>
            edit((p) => ({
              ...p,
              spoken_for: [...(p.spoken_for ?? []), { from: noon, to: moved(noon, 60) }],
            }))
          }
        >
          Add a busy time
        </Button>
        <Box sx={{ flex: 1 }} />
        <Button variant="contained" onClick={onClose}>
          Done
        </Button>
      </Box>
    </TitledDialog>
  );
}

/** Puts drinks of the shelf into the plan. */
export function AddDrinksDialog({ plan, edit, onClose }: DialogProps) {
  const [find, setFind] = useState("");
  const { data } = useShelf({ find });
  const there = new Set((plan.drinks ?? []).map((d) => d.drink));
  return (
    <TitledDialog title="Add drinks" width={520} onClose={onClose}>
      <TextField
        size="small"
        label="Find a drink"
        type="search"
        value={find}
        onChange={(event) => setFind(event.target.value)}
      />
      <Box
        component="ul"
        sx={{ listStyle: "none", m: 0, p: 0, maxHeight: "50dvh", overflow: "auto" }}
      >
        {data?.drinks.map((drink) => (
          <Box
            component="li"
            key={drink.id}
            sx={{ display: "flex", alignItems: "center", gap: 1.5, minHeight: 52 }}
          >
            <Standing of={drink} width={34} height={40} />
            <Box sx={{ flex: 1, minWidth: 0, fontWeight: 600 }}>{drink.name}</Box>
            <Button
              aria-label={`Add ${drink.name}`}
              onClick={() => edit((p) => withDrink(p, drink.id, drink.name))}
            >
              {there.has(drink.id) ? "Add once more" : "Add"}
            </Button>
          </Box>
        ))}
      </Box>
      <Button variant="contained" onClick={onClose} sx={{ justifySelf: "end" }}>
        Done
      </Button>
    </TitledDialog>
  );
}

interface DrinkDialogProps extends DialogProps {
  entry: string;
  answer: PlanAnswer | undefined;
}

/** The size of a drink in the plan, and when it is served. */
export function DrinkDialog({ plan, edit, onClose, entry, answer }: DrinkDialogProps) {
  const drink = plan.drinks?.find((d) => d.id === entry);
  const known = answer?.drinks.find((d) => d.id === entry);
  if (!drink) return null;
  const set = (change: Partial<typeof drink>) =>
    edit((p) => ({
      ...p,
      drinks: (p.drinks ?? []).map((d) => (d.id === entry ? { ...d, ...change } : d)),
    }));
  const size = drink.size as
    { glasses?: { glasses: number; size: string }; volume?: string } | undefined;
  const glasses = size?.glasses;
  const each = known && known.glasses > 0 ? Math.round(known.volume_ml / known.glasses) : 250;
  const rows: [string, ReactNode][] = [
    [
      "glasses",
      <Box key="g" sx={{ display: "flex", gap: 1 }}>
        <TypedField
          label="Glasses"
          width={110}
          value={glasses ? String(glasses.glasses) : ""}
          onType={async (text) => {
            const { number, wrong } = await numberWithin("number", text, 1, 2000, "glasses");
            const size = glasses?.size ?? `${each} ml`;
            if (!wrong) set({ size: { glasses: { glasses: Math.round(number), size } } });
            return wrong;
          }}
        />
        <TypedField
          label="of, ml"
          width={110}
          value={glasses ? glasses.size.replace(/ ml$/, "") : String(each)}
          onType={async (text) => {
            const { number, wrong } = await numberWithin("millilitres", text, 5, 5000, "ml");
            const count = glasses?.glasses ?? Math.max(Math.round(known?.glasses ?? 1), 1);
            if (!wrong) set({ size: { glasses: { glasses: count, size: `${number} ml` } } });
            return wrong;
          }}
        />
      </Box>,
    ],
    [
      "litres",
      <TypedField
        key="l"
        label="or total litres"
        width={228}
        value={size?.volume ? size.volume.replace(/ l$/, "") : ""}
        onType={async (text) => {
          const { number, wrong } = await numberWithin("litres", text, 0.05, 500, "litres");
          if (!wrong) set({ size: { volume: `${number} l` } });
          return wrong;
        }}
      />,
    ],
  ];
  return (
    <TitledDialog title={known?.name ?? drink.name ?? "Drink"} width={460} onClose={onClose}>
      {known?.missing && <Box sx={{ color: colour("stop") }}>{known.missing}</Box>}
      {rows.map(([key, row]) => (
        <Box key={key}>{row}</Box>
      ))}
      {drink.size && (
        <Button
          sx={{ justifySelf: "start" }}
          onClick={() =>
            edit((p) => ({
              ...p,
              drinks: (p.drinks ?? []).map((d) => (d.id === entry ? { ...d, size: undefined } : d)),
            }))
          }
        >
          As written
        </Button>
      )}
      <Field
        label="Served"
        type="datetime-local"
        width={228}
        value={(drink.serving ?? plan.serving).slice(0, 16)}
        onSet={(serving) => set({ serving })}
      />
      <Box sx={{ display: "flex", flexWrap: "wrap", gap: 1 }}>
        <Button
          onClick={() => {
            edit((p) => withoutDrink(p, entry));
            onClose();
          }}
        >
          Remove from the plan
        </Button>
        <Box sx={{ flex: 1 }} />
        <Button variant="contained" onClick={onClose}>
          Done
        </Button>
      </Box>
    </TitledDialog>
  );
}
