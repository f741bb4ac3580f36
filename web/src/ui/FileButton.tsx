// A button that asks for a file. The field itself is hidden, and emptied after each file, so that the same
// one can be given again after it was put right.

import Button, { type ButtonProps } from "@mui/material/Button";
import { useRef } from "react";

interface Props extends Omit<ButtonProps, "onClick"> {
  /** What is asked for, as a screen reader says it: "A table". */
  what: string;
  /** The kinds of files, as the browser's own dialog takes them. */
  accept: string;
  onFile: (file: File) => void;
}

export function FileButton({ what, accept, onFile, ...button }: Props) {
  const field = useRef<HTMLInputElement>(null);
  return (
    <>
      <Button {...button} onClick={() => field.current?.click()} />
      <input
        ref={field}
        type="file"
        accept={accept}
        aria-label={what}
        hidden
        onChange={(event) => {
          const file = event.target.files?.[0];
          if (file) onFile(file);
          event.target.value = "";
        }}
      />
    </>
  );
}
