import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { Link } from "react-router";
import type { CallFailed } from "../api/client";
import { useTitle } from "./useTitle";

interface NotThereProps {
  error: Error;
  again: () => void;
  /** Where one may go instead, and what that is called. */
  back: string;
  backTo: string;
}

/** In the place of something that can't be opened: why, and what to do. */
export function NotThere({ error, again, back, backTo }: NotThereProps) {
  const title = (error as CallFailed).problem?.title ?? "No answer";
  useTitle(title);
  return (
    <Box component="main" sx={{ p: { xs: 2, md: 3.5 } }}>
      <h1>{title}</h1>
      <p>{error.message}</p>
      <Box sx={{ display: "flex", gap: 1 }}>
        <Button variant="outlined" onClick={again}>
          Try again
        </Button>
        <Button component={Link} to={backTo}>
          {back}
        </Button>
      </Box>
    </Box>
  );
}
