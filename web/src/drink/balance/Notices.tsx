import Box from "@mui/material/Box";
import { memo } from "react";
import type { DrinkReport, Notice } from "../../api/client";
import { colour } from "../../ui/theme";

const looks: Record<Notice["severity"], { word: string; ground: "notice" | "stopWash" | "wash" }> =
  {
    stop: { word: "This needs fixing.", ground: "stopWash" },
    notice: { word: "Worth a look.", ground: "notice" },
    hint: { word: "Good to know.", ground: "wash" },
  };

/** What the core noticed on the way, the gravest first; the same thing once. */
export const Notices = memo(function Notices({ frames }: { frames: DrinkReport["frames"] }) {
  const all = frames.flatMap((frame) => frame.notices);
  const order = ["stop", "notice", "hint"];
  const once = all.filter((n, i) => all.findIndex((m) => m.message === n.message) === i);
  once.sort((a, b) => order.indexOf(a.severity) - order.indexOf(b.severity));
  return (
    <Box
      role="status"
      aria-label="Notices"
      sx={{ display: "grid", gap: 1, mt: once.length ? 2 : 0 }}
    >
      {once.map((notice) => (
        <Box
          key={notice.message}
          data-notice={notice.kind}
          sx={{
            p: 1.5,
            borderRadius: "10px",
            fontSize: 14,
            lineHeight: 1.4,
            bgcolor: colour(looks[notice.severity].ground),
            color: colour("ink"),
            borderLeft: notice.severity === "stop" ? `4px solid ${colour("stop")}` : undefined,
          }}
        >
          <strong>{looks[notice.severity].word}</strong> {notice.message}
        </Box>
      ))}
    </Box>
  );
});
