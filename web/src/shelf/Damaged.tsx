import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import type { DamagedEntry } from "../api/client";
import { useShelfActions } from "../api/queries";
import { colour } from "../ui/theme";
import { DeleteButton } from "../ui/DeleteButton";
import { when } from "../ui/format";

/** Drinks that stand on the shelf but can't be read. */
export function Damaged({ drinks }: { drinks: DamagedEntry[] }) {
  const { remove } = useShelfActions();
  if (drinks.length === 0) return null;
  return (
    <Box component="section" aria-label="Damaged drinks" sx={{ mt: 4, maxWidth: 760 }}>
      <Box component="h2" sx={{ fontSize: 17, m: 0, mb: 0.5 }}>
        Damaged
      </Box>
      <Box sx={{ color: colour("muted"), fontSize: 14, mb: 1 }}>
        We couldn't read these drinks. Save their text: you may be able to repair it by hand.
      </Box>
      <Box component="ul" sx={{ listStyle: "none", m: 0, p: 0 }}>
        {drinks.map((entry) => (
          <Box
            component="li"
            key={entry.id}
            sx={{
              display: "flex",
              flexWrap: "wrap",
              alignItems: "center",
              gap: 1,
              py: 1,
              borderTop: `1px solid ${colour("hairline")}`,
            }}
          >
            <Box sx={{ flex: "1 1 300px", minWidth: 0, overflowWrap: "anywhere" }}>
              <strong>{entry.name}</strong>, changed {when(entry.changed_at)}
              <Box sx={{ fontSize: 13.5, color: colour("muted") }}>{entry.why}</Box>
            </Box>
            <Button
              component="a"
              variant="outlined"
              href={`/api/drinks/${entry.id}/file`}
              download={`${entry.name}.json`}
            >
              Save its text
            </Button>
            <DeleteButton label={`Delete ${entry.name}`} onDelete={() => remove.mutate(entry.id)}>
              Delete
            </DeleteButton>
          </Box>
        ))}
      </Box>
    </Box>
  );
}
