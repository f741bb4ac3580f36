import Box from "@mui/material/Box";
import { colour } from "./theme";

interface NoteProps {
  kind: "notice" | "stop";
  children: React.ReactNode;
  /** What can be done about it. */
  action?: React.ReactNode;
}

/** Something that one should know before going on, with what can be done about it. */
export function Note({ kind, children, action }: NoteProps) {
  return (
    <Box
      role={kind === "stop" ? "alert" : "status"}
      sx={{
        display: "flex",
        flexWrap: "wrap",
        alignItems: "center",
        columnGap: 2,
        rowGap: 0.5,
        mx: { xs: 2, md: 3.5 },
        mb: 1,
        px: 2,
        py: 1,
        borderRadius: "10px",
        bgcolor: colour(kind === "stop" ? "stopWash" : "notice"),
        color: colour(kind === "stop" ? "ink" : "onNotice"),
        "& button, & a": { color: "inherit", textDecoration: "underline" },
      }}
    >
      <Box sx={{ flex: "1 1 320px", minWidth: 0, overflowWrap: "anywhere" }}>{children}</Box>
      {action}
    </Box>
  );
}
