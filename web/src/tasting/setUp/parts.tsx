import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import type { ReactNode } from "react";
import { useNavigate } from "react-router";
import { colour } from "../../ui/theme";
import { type SetUp, useTastingActions } from "../queries";

/** Sets it up and goes there. */
export function useSetUp() {
  const { setUp } = useTastingActions();
  const go = useNavigate();
  return {
    begin: (body: SetUp) =>
      setUp.mutate(body, { onSuccess: (made) => void go(`/tasting/${made.id}`) }),
    wrong: setUp.error?.message,
    waits: setUp.isPending,
  };
}

/** The button that sets it up, with what is wrong or still missing. */
export function Begin(props: {
  act: string;
  onBegin: () => void;
  can: boolean;
  wrong?: string | undefined;
  /** What has to be chosen before. */
  missing?: string | false | undefined;
}) {
  const { act, onBegin, can, wrong, missing } = props;
  return (
    <Box sx={{ display: "grid", gap: 1, justifyItems: "start" }}>
      {wrong && (
        <Box role="alert" sx={{ color: colour("stop"), maxWidth: 640 }}>
          {wrong}
        </Box>
      )}
      <Button
        variant="contained"
        disabled={!can}
        onClick={onBegin}
        sx={{ minHeight: 56, px: 4, fontSize: 18, borderRadius: "14px" }}
      >
        {act}
      </Button>
      {missing && <Box sx={{ color: colour("muted") }}>{missing}</Box>}
    </Box>
  );
}

/** Something to be chosen, under its question. */
export function Line({ label, children }: { label: string; children: ReactNode }) {
  return (
    <Box sx={{ display: "grid", gap: 0.75 }}>
      <Box sx={{ fontWeight: 600 }}>{label}</Box>
      {children}
    </Box>
  );
}

/** What is chosen on the left, what follows from it on the right; one under the other on the phone. */
export function TwoColumns({ left, children }: { left: string; children: ReactNode }) {
  return (
    <Box
      sx={{
        display: "grid",
        gap: 3.5,
        gridTemplateColumns: { xs: "minmax(0, 1fr)", md: `${left} minmax(0, 1fr)` },
      }}
    >
      {children}
    </Box>
  );
}

/** Choices one under the other. */
export function Choices({ children }: { children: ReactNode }) {
  return <Box sx={{ display: "grid", gap: 2.25, alignContent: "start" }}>{children}</Box>;
}
