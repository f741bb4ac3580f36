import TextField from "@mui/material/TextField";
import { useState } from "react";

/** Text that is taken over when the field is left or Enter is pressed, or says what is wrong. */
export function TypedField(props: {
  label: string;
  value: string;
  hint?: string | undefined;
  width?: number;
  /** What counts while nothing is typed. */
  placeholder?: string;
  onType: (text: string) => Promise<string | undefined>;
}) {
  const [typed, setTyped] = useState<string | undefined>();
  const [wrong, setWrong] = useState<string | undefined>();
  const commit = async () => {
    if (typed === undefined || typed.trim() === props.value) return setTyped(undefined);
    const problem = await props.onType(typed.trim());
    setWrong(problem);
    if (problem === undefined) setTyped(undefined);
  };
  return (
    <TextField
      size="small"
      sx={props.width === undefined ? undefined : { width: props.width }}
      label={props.label}
      value={typed ?? props.value}
      error={wrong !== undefined}
      placeholder={props.placeholder}
      helperText={wrong ?? props.hint}
      onChange={(event) => {
        setTyped(event.target.value);
        setWrong(undefined);
      }}
      onBlur={() => void commit()}
      onKeyDown={(event) => event.key === "Enter" && void commit()}
    />
  );
}
