import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { useParams } from "react-router";
import { useStore } from "zustand";
import { answer, api, type PlanView } from "../api/client";
import { useSaveWord } from "../drink/editing/saveWord";
import { EditableName } from "../ui/EditableName";
import { Note } from "../ui/Note";
import { PlanDesk } from "./PlanDesk";
import { createPlanEditor } from "./planEditor";
import { NotThere } from "../ui/NotThere";

export default function PlanPage() {
  const { id = "" } = useParams();
  const query = useQuery({
    queryKey: ["plan", id],
    queryFn: () => answer(api.GET("/api/plans/{id}", { params: { path: { id } } })),
    staleTime: 0,
    gcTime: 0,
  });
  if (query.error && !query.data) {
    return (
      <NotThere
        error={query.error}
        again={() => void query.refetch()}
        back="Back to the plans"
        backTo="/plan"
      />
    );
  }
  return query.data ? <OpenPlan key={id} view={query.data} /> : null;
}

function OpenPlan({ view }: { view: PlanView }) {
  const [editor] = useState(() => createPlanEditor(view));
  const { plan, word, wrong, canUndo, canRedo } = useStore(editor.store);
  const { edit, undo, redo } = editor;
  useEffect(() => {
    editor.hear(view);
  }, [editor, view]);
  useEffect(() => {
    window.addEventListener("pagehide", editor.leave);
    return () => {
      window.removeEventListener("pagehide", editor.leave);
      editor.leave();
    };
  }, [editor]);
  // A batch that is made for it is in time or late by what the plan says now.
  const client = useQueryClient();
  useEffect(() => {
    if (word === "saved") void client.invalidateQueries({ queryKey: ["going"] });
  }, [client, word]);
  const say = useSaveWord((s) => s.say);
  useEffect(() => {
    say(word);
    return () => say("");
  }, [say, word]);
  useEffect(() => {
    document.title = `${plan.name} · Keen Pitcher`;
    return () => {
      document.title = "Keen Pitcher";
    };
  }, [plan.name]);
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const typing = (event.target as HTMLElement).closest?.("input, textarea");
      if (typing || !(event.ctrlKey || event.metaKey) || event.key.toLowerCase() !== "z") return;
      event.preventDefault();
      (event.shiftKey ? redo : undo)();
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [undo, redo]);
  return (
    <Box component="main" sx={{ px: { xs: 2, md: 3.5 }, pb: 6, flex: 1, minWidth: 0 }}>
      <Box sx={{ display: "flex", flexWrap: "wrap", alignItems: "baseline", columnGap: 2 }}>
        <EditableName
          name={plan.name}
          label="Name of the plan"
          onName={(name) => edit((p) => ({ ...p, name }))}
        />
        <Box sx={{ flex: 1 }} />
        <Box className="no-print">
          <Button onClick={undo} disabled={!canUndo} aria-keyshortcuts="Control+Z">
            Undo
          </Button>
          <Button onClick={redo} disabled={!canRedo} aria-keyshortcuts="Control+Shift+Z">
            Redo
          </Button>
        </Box>
      </Box>
      {wrong && (
        <Box sx={{ mx: { xs: -2, md: -3.5 } }}>
          <Note kind="notice">{wrong}</Note>
        </Box>
      )}
      <PlanDesk id={view.id} plan={plan} edit={edit} />
    </Box>
  );
}
