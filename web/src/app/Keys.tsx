import Box from "@mui/material/Box";
import { colour } from "./theme";
import { TitledDialog } from "./TitledDialog";

const groups: [string, [string, string][]][] = [
  [
    "An amount",
    [
      ["↑ ↓", "more or less, in kitchen steps"],
      ["PageUp PageDown", "ten steps"],
      ["Enter or a digit", "type it: 1 1/2 cups, 3 limes, 220 g"],
      ["Esc", "cancel"],
    ],
  ],
  [
    "The target on the map",
    [
      ["← → ↑ ↓", "sweeter or more sour, in small steps"],
      ["Shift with an arrow", "five times as far"],
    ],
  ],
  [
    "A step",
    [
      ["Space", "pick up or drop"],
      ["↑ ↓ ← →", "move while picked up"],
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
