import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { useEffect, useRef } from "react";
import { words, type Word } from "../ui/help";
import { colour } from "../ui/theme";
import { TitledDialog } from "../ui/TitledDialog";

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
      ["Ctrl /", "this list"],
    ],
  ],
];

interface HelpProps {
  /** The word that was touched. */
  word?: Word | undefined;
  onClose: () => void;
}

/** What the words on the screens mean, and what the keyboard does. */
export default function Help({ word, onClose }: HelpProps) {
  const touched = useRef<HTMLDivElement>(null);
  useEffect(() => {
    touched.current?.scrollIntoView({ block: "center" });
  }, []);
  return (
    <TitledDialog title="Words and keys" width={560} onClose={onClose}>
      <Box component="section" aria-label="Words">
        <Box component="dl" sx={{ m: 0, display: "grid", gap: 0.5 }}>
          {Object.entries(words).map(([name, meaning]) => (
            <Box
              key={name}
              ref={name === word ? touched : undefined}
              sx={{
                px: 1.5,
                py: 1,
                mx: -1.5,
                borderRadius: "10px",
                bgcolor: name === word ? colour("wash") : undefined,
              }}
            >
              <Box component="dt" sx={{ fontWeight: 700 }}>
                {name}
              </Box>
              <Box component="dd" sx={{ m: 0, fontSize: 15 }}>
                {meaning}
              </Box>
            </Box>
          ))}
        </Box>
      </Box>
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
      <Button variant="outlined" onClick={onClose} sx={{ justifySelf: "end" }}>
        Close
      </Button>
    </TitledDialog>
  );
}
