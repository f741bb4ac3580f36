import Box from "@mui/material/Box";
import Button, { type ButtonProps } from "@mui/material/Button";
import { useEffect, useRef, useState } from "react";

interface DeleteButtonProps {
  /** The verb and its object: "Delete the picture". */
  children: string;
  /** For whoever doesn't see which row it is in. */
  label?: string;
  onDelete: () => void;
  disabled?: boolean;
  sx?: ButtonProps["sx"];
}

/** Deletes what can't be had back: asked once more, in its own place. */
export function DeleteButton({ children, label, onDelete, disabled, sx }: DeleteButtonProps) {
  const [asked, setAsked] = useState(false);
  const keep = useRef<HTMLButtonElement>(null);
  const first = useRef<HTMLButtonElement>(null);
  const was = useRef(false);
  useEffect(() => {
    // Whoever works by keys stays where they were.
    if (asked) keep.current?.focus();
    else if (was.current) first.current?.focus();
    was.current = asked;
  }, [asked]);
  if (!asked) {
    return (
      <Button
        ref={first}
        aria-label={label}
        disabled={disabled}
        onClick={() => setAsked(true)}
        sx={sx}
      >
        {children}
      </Button>
    );
  }
  return (
    <Box role="group" aria-label={`${label ?? children}?`} sx={{ display: "flex", gap: 0.5 }}>
      <Button
        variant="outlined"
        color="error"
        disabled={disabled}
        onClick={() => {
          setAsked(false);
          onDelete();
        }}
        sx={{ minHeight: 44 }}
      >
        Yes, delete
      </Button>
      <Button ref={keep} onClick={() => setAsked(false)} sx={{ minHeight: 44 }}>
        Keep
      </Button>
    </Box>
  );
}
