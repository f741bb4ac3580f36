import Box from "@mui/material/Box";
import { useState } from "react";
import { colour, displayFont } from "./theme";

interface EditableNameProps {
  name: string;
  /** What it names, for whoever can't see it. */
  label: string;
  onName: (name: string) => void;
}

/** The name of what is open, to be changed where it stands. */
export function EditableName({ name, label, onName }: EditableNameProps) {
  const [typed, setTyped] = useState<string | undefined>();
  const commit = () => {
    if (typed?.trim() && typed.trim() !== name) onName(typed.trim());
    setTyped(undefined);
  };
  const font = {
    ...displayFont,
    fontSize: { xs: 25, sm: 34 },
    fontWeight: 700,
    letterSpacing: "-0.02em",
    lineHeight: 1.15,
    m: 0,
    overflowWrap: "anywhere",
  } as const;
  if (typed === undefined) {
    return (
      <Box component="h1" sx={font}>
        <Box
          component="button"
          title="Click to rename"
          onClick={() => setTyped(name)}
          sx={{
            all: "unset",
            cursor: "text",
            // As large as a finger, in no more room than the name needs.
            display: "inline-block",
            py: "8px",
            my: "-8px",
            "&:focus-visible": { outline: `2px solid ${colour("cobalt")}` },
          }}
        >
          {name}
        </Box>
      </Box>
    );
  }
  return (
    <Box
      component="input"
      aria-label={label}
      autoFocus
      maxLength={120}
      value={typed}
      onChange={(event: React.ChangeEvent<HTMLInputElement>) => setTyped(event.target.value)}
      onBlur={commit}
      onKeyDown={(event: React.KeyboardEvent) => {
        if (event.key === "Enter") commit();
        if (event.key === "Escape") setTyped(undefined);
      }}
      sx={{
        ...font,
        color: colour("ink"),
        bgcolor: "transparent",
        border: 0,
        borderBottom: `2px solid ${colour("cobalt")}`,
        outline: 0,
        p: 0,
        width: "min(100%, 620px)",
      }}
    />
  );
}
