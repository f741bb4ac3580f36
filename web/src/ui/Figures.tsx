// Figures that are typed one beside the other: what was read off instruments, or off a packet. Any of them
// may be left empty.

import TextField from "@mui/material/TextField";

interface Props<K extends string> {
  /** Each figure's name, and what stands in its field. */
  of: readonly (readonly [K, string])[];
  typed: Record<K, string>;
  onType: (typed: Record<K, string>) => void;
}

export function Figures<K extends string>({ of, typed, onType }: Props<K>) {
  return of.map(([key, label]) => (
    <TextField
      key={key}
      size="small"
      label={label}
      value={typed[key]}
      onChange={(event) => onType({ ...typed, [key]: event.target.value })}
      slotProps={{ htmlInput: { inputMode: "decimal" } }}
    />
  ));
}
