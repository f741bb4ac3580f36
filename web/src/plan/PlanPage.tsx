import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { useNavigate, useParams } from "react-router";
import { useStore } from "zustand";
import { answer, api, type PlanView } from "../api/client";
import { usePlanActions } from "../api/queries";
import { Conflict } from "../document/Conflict";
import { NotSavedYet } from "../document/NotSavedYet";
import { UndoButtons } from "../document/UndoButtons";
import { useOpen } from "../document/useOpen";
import { EditableName } from "../ui/EditableName";
import { Note } from "../ui/Note";
import { PlanDesk } from "./PlanDesk";
import { createPlanEditor, keptPlan, type PlanEditor } from "./planEditor";
import { NotThere } from "../ui/NotThere";
import { again, keys } from "../api/keys";

export default function PlanPage() {
  const { id = "" } = useParams();
  const query = useQuery({
    queryKey: keys.plan(id),
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
  const { content: plan, saving, canUndo, canRedo } = useStore(editor.store);
  const { edit, undo, redo } = editor;
  const { phase } = saving;
  useOpen(editor, plan.name, phase);
  useEffect(() => {
    editor.enter();
    return editor.close;
  }, [editor]);
  useEffect(() => {
    editor.heard(keptPlan(view));
  }, [editor, view]);
  // A batch that is made for it is in time or late by what the plan says now.
  const client = useQueryClient();
  useEffect(() => {
    if (phase === "saved") void again(client, keys.going());
  }, [client, phase]);
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
          <UndoButtons canUndo={canUndo} canRedo={canRedo} onUndo={undo} onRedo={redo} />
        </Box>
      </Box>
      <Box sx={{ mx: { xs: -2, md: -3.5 } }}>
        <Troubles editor={editor} />
      </Box>
      <PlanDesk id={view.id} plan={plan} edit={edit} />
    </Box>
  );
}

/** Why the plan on the screen isn't saved. */
function Troubles({ editor }: { editor: PlanEditor }) {
  const { content: plan, saving } = useStore(editor.store);
  const { create } = usePlanActions();
  const go = useNavigate();
  if (saving.phase === "conflict") {
    const keepBoth = async () => {
      const copy = await create.mutateAsync({ ...plan, name: `${plan.name}, mine` });
      editor.takeTheirs();
      void go(`/plan/${copy.id}`);
    };
    return (
      <Conflict
        what="plan"
        changedAt={saving.theirs.changed_at}
        onKeepMine={editor.keepMine}
        onTakeTheirs={editor.takeTheirs}
        onKeepBoth={() => void keepBoth()}
      />
    );
  }
  if (saving.phase === "waiting") return <NotSavedYet why={saving.why} />;
  if (saving.phase === "refused") {
    return (
      <Note kind="stop" action={<Button onClick={editor.undo}>Undo</Button>}>
        {saving.problem.detail} This was not saved.
      </Note>
    );
  }
  return null;
}
