import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { useState } from "react";
import { useBin, useShelfActions } from "../api/queries";
import { TitledDialog } from "../ui/TitledDialog";
import { colour } from "../ui/theme";
import { when } from "../ui/format";

/** What was removed in the last thirty days, to be put back. */
export default function Bin({ onClose }: { onClose: () => void }) {
  const { data, error } = useBin(true);
  const { restore } = useShelfActions();
  const [wrong, setWrong] = useState<string | undefined>();
  return (
    <TitledDialog title="Deleted drinks" width={520} onClose={onClose}>
      <Box sx={{ color: colour("muted"), fontSize: 14 }}>
        Deleted drinks are kept for 30 days. Restore one to get it back as it was.
      </Box>
      {(error || wrong) && <p role="alert">{wrong ?? error?.message}</p>}
      {data?.length === 0 && <Box sx={{ py: 2 }}>No deleted drinks.</Box>}
      <Box component="ul" sx={{ listStyle: "none", m: 0, p: 0 }}>
        {data?.map((entry) => (
          <Box
            component="li"
            key={entry.id}
            sx={{
              display: "flex",
              alignItems: "center",
              gap: 2,
              py: 0.75,
              borderTop: `1px solid ${colour("hairline")}`,
            }}
          >
            <Box sx={{ flex: 1, minWidth: 0, overflowWrap: "anywhere" }}>
              <strong>{entry.name}</strong>
              <Box sx={{ fontSize: 13.5, color: colour("muted") }}>
                removed {when(entry.removed_at)}, {entry.days_left}{" "}
                {entry.days_left === 1 ? "day" : "days"} left
              </Box>
            </Box>
            <Button
              variant="outlined"
              aria-label={`Restore ${entry.name}`}
              onClick={() =>
                restore.mutate(entry.id, {
                  onSuccess: () => setWrong(undefined),
                  onError: (fault) => setWrong(fault.message),
                })
              }
              sx={{ flexShrink: 0 }}
            >
              Restore
            </Button>
          </Box>
        ))}
      </Box>
      <Button onClick={onClose} sx={{ justifySelf: "end" }}>
        Close
      </Button>
    </TitledDialog>
  );
}
