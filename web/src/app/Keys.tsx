import Box from "@mui/material/Box";
import { colour } from "./theme";
import { TitledDialog } from "./TitledDialog";

const groups: [string, [string, string][]][] = [
  [
    "An amount",
    [
      ["↑ ↓", "more, less, by a kitchen step"],
      ["PageUp PageDown", "ten steps"],
      ["Enter, or a figure", "type it: 1 1/2 cups, 3 limes, 220 g"],
      ["Esc", "leave it as it was"],
    ],
  ],
  [
    "The target on the map",
    [
      ["← → ↑ ↓", "sweeter and sharper, a little at a time"],
      ["Shift with an arrow", "five times as far"],
    ],
  ],
  [
    "A step",
    [
      ["Space", "pick it up, and put it down"],
      ["↑ ↓ ← →", "move it while it is picked up"],
    ],
  ],
  [
    "Anywhere",
    [
      ["Ctrl Z", "undo"],
      ["Ctrl Shift Z", "redo"],
      ["?", "this list"],
    ],
  ],
];

/** What the keyboard does. */
export default function Keys({ onClose }: { onClose: () => void }) {
  return (
    <TitledDialog title="On the keyboard" width={520} onClose={onClose}>
      {groups.map(([group, keys]) => (
        <Box key={group} component="section" aria-label={group}>
          <Box component="h3" sx={{ fontSize: 14, color: colour("muted"), m: 0, mb: 0.5 }}>
            {group}
          </Box>
          <Box
            component="dl"
            sx={{ m: 0, display: "grid", gridTemplateColumns: "170px 1fr", rowGap: 0.5 }}
          >
            {keys.map(([key, what]) => (
              <Box key={key} sx={{ display: "contents" }}>
                <Box component="dt" sx={{ fontWeight: 600 }}>
                  {key}
                </Box>
                <Box component="dd" sx={{ m: 0 }}>
                  {what}
                </Box>
              </Box>
            ))}
          </Box>
        </Box>
      ))}
    </TitledDialog>
  );
}
