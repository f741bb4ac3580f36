import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import type { Start } from "../api/client";
import { colour } from "../ui/theme";
import { effort } from "../ui/format";
import { Standing } from "./Standing";

/** A starting point, shown as what it makes. */
export function StartingPoint({ start, onBegin }: { start: Start; onBegin: () => void }) {
  const { makes } = start;
  const takes = [
    ...(makes.minutes > 0 ? effort(makes) : []),
    ...(makes.keeps ? [makes.keeps] : []),
  ];
  return (
    <Button
      fullWidth
      onClick={onBegin}
      sx={{
        display: "flex",
        alignItems: "flex-start",
        justifyContent: "flex-start",
        gap: 1.5,
        textAlign: "left",
        color: colour("ink"),
        px: 1,
        mx: -1,
      }}
    >
      <Standing of={makes} width={56} height={64} />
      <Box component="span" sx={{ flex: 1, minWidth: 0, fontWeight: 400, fontSize: 13.5 }}>
        <Box
          component="span"
          sx={{ display: "block", color: colour("cobalt"), fontSize: 16, fontWeight: 600 }}
        >
          {start.name}
        </Box>
        <Box component="span" sx={{ display: "block", color: colour("muted"), lineHeight: 1.3 }}>
          {start.description}
        </Box>
        {takes.length > 0 && (
          <Box component="span" sx={{ display: "block", lineHeight: 1.4 }}>
            {takes.join(" · ")}
          </Box>
        )}
        {makes.kit.length > 0 && (
          <Box component="span" sx={{ display: "block", color: colour("muted"), lineHeight: 1.3 }}>
            takes {makes.kit.join(", ")}
          </Box>
        )}
      </Box>
    </Button>
  );
}
