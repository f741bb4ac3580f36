import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { useQuery } from "@tanstack/react-query";
import { lazy, Suspense, useEffect, useRef, useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { useStore } from "zustand";
import { answer, api, type DrinkView } from "../api/client";
import { onDrinkChanged } from "../api/changes";
import { useKitchen, useShelfActions } from "../api/queries";
import { colour } from "../ui/theme";
import { EditableName } from "../ui/EditableName";
import { Guarded } from "../ui/Guarded";
import { Note } from "../ui/Note";
import { Balance } from "./balance/Balance";
import { Counter } from "./counter/Counter";
import { createEditor, type Editor } from "./editing/editor";
import { Conflict } from "../document/Conflict";
import { NotSavedYet } from "../document/NotSavedYet";
import { UndoButtons } from "../document/UndoButtons";
import { useOpen } from "../document/useOpen";
import { Servings } from "./Servings";
import { readAloud } from "../ui/format";
import { Spoken } from "../ui/Spoken";
import { NotThere } from "../ui/NotThere";
import { keys } from "../api/keys";

export default function DrinkPage() {
  const { id = "", view } = useParams();
  const query = useQuery({
    queryKey: keys.drink(id),
    queryFn: () => answer(api.GET("/api/drinks/{id}", { params: { path: { id } } })),
    gcTime: 0,
    staleTime: Infinity,
  });
  if (query.error && !query.data) {
    return (
      <NotThere
        error={query.error}
        again={() => void query.refetch()}
        back="Back to your drinks"
        backTo="/"
      />
    );
  }
  return query.data ? <OpenDrink key={id} kept={query.data} view={view} /> : null;
}

const Size = lazy(() => import("./size/Size"));
const DrinkPlan = lazy(() => import("./plan/DrinkPlan"));
const DrinkMake = lazy(() => import("./make/DrinkMake"));
const Steps = lazy(() => import("./steps/Steps"));
const History = lazy(() => import("./history/History"));

function OpenDrink({ kept, view }: { kept: DrinkView; view: string | undefined }) {
  const [editor] = useState(() => createEditor(kept));
  // Nothing is called saved while a typed change is still being tried.
  const phase = useStore(editor.store, (s) =>
    s.saving.phase === "saved" && s.trying > 0 ? "due" : s.saving.phase,
  );
  const name = useStore(editor.store, (s) => s.drink.name);
  useOpen(editor, name, phase);
  const { version } = useKitchen();

  // The cupboard knows better now: the same drink comes to something else. What was asked before the cupboard's
  // first answer was worked out with the same one.
  const known = useRef(version);
  useEffect(() => {
    if (known.current !== undefined && version !== known.current) editor.again();
    known.current = version;
  }, [editor, version]);
  useEffect(() => {
    const quiet = onDrinkChanged((id, version) => {
      if (id === editor.id) void editor.changedElsewhere(version);
    });
    const close = editor.enter();
    return () => {
      quiet();
      close();
    };
  }, [editor]);

  return (
    <Box
      component="main"
      sx={{ flex: 1, display: "flex", flexDirection: "column", minHeight: 0, minWidth: 0 }}
    >
      <Box
        sx={{
          display: "flex",
          flexWrap: "wrap",
          alignItems: "baseline",
          columnGap: 2.5,
          rowGap: 0.5,
          px: { xs: 2, md: 3.5 },
          pb: 1,
        }}
      >
        <EditableName
          name={name}
          label="Name of the drink"
          onName={(name) => editor.edit((drink) => ({ ...drink, name }))}
        />
        <Servings editor={editor} />
        <Box sx={{ flex: 1 }} />
        <Box
          className="no-print"
          sx={{ display: "flex", flexWrap: { xs: "nowrap", md: "wrap" }, maxWidth: "100%" }}
        >
          <Undo editor={editor} />
          <Views id={kept.id} view={view} />
        </Box>
      </Box>
      <Troubles editor={editor} />
      <Shown editor={editor} view={view} />
    </Box>
  );
}

/** The drink as the core last saw it, in one of the views, and its vessels on the counter. */
function Shown({ editor, view }: { editor: Editor; view: string | undefined }) {
  const shown = useStore(editor.store, (s) => s.shown);
  const [chosen, setChosen] = useState<string | undefined>();
  if (!shown) return null;
  const { drink, report } = shown;
  const View =
    view === "steps"
      ? Steps
      : view === "size"
        ? Size
        : view === "plan"
          ? DrinkPlan
          : view === "make"
            ? DrinkMake
            : view === "history"
              ? History
              : Balance;
  return (
    <>
      <Spoken
        text={
          report.profile ? readAloud(report.profile, report.map.point?.band) : "Nothing added yet."
        }
      />
      <Guarded key={view} name="this view">
        <Suspense>
          <View editor={editor} drink={drink} report={report} />
        </Suspense>
      </Guarded>
      {/* In the shop there is no counter, and little room; Steps has one of its own. */}
      {view !== "steps" && (
        <Box
          sx={{
            display:
              view === "history"
                ? "none"
                : view === "size" || view === "plan" || view === "make"
                  ? { xs: "none", md: "contents" }
                  : "contents",
          }}
        >
          <Counter
            editor={editor}
            drink={drink}
            report={report}
            chosen={chosen}
            onChoose={setChosen}
            low={view === "size" || view === "plan" || view === "make"}
            folds={view === "size" || view === "plan"}
          />
        </Box>
      )}
    </>
  );
}

/** The ways to look at a drink, in the order of work. */
function Views({ id, view = "balance" }: { id: string; view: string | undefined }) {
  const line = useRef<HTMLElement>(null);
  // Where the line goes on sideways, the view that is open is in sight.
  useEffect(() => {
    const here = line.current?.querySelector<HTMLElement>("[aria-current]");
    if (here && line.current)
      line.current.scrollLeft = here.offsetLeft - (line.current.clientWidth - here.offsetWidth) / 2;
  }, [view]);
  return (
    <Box
      component="nav"
      ref={line}
      aria-label="Views of the drink"
      sx={{
        display: "flex",
        flexWrap: { xs: "nowrap", md: "wrap" },
        gap: 0.5,
        position: "relative",
        // On a phone one line, which goes on sideways.
        overflowX: { xs: "auto", md: "visible" },
        scrollbarWidth: "none",
      }}
    >
      {[
        ["balance", "Balance", `/drinks/${id}`],
        ["steps", "Steps", `/drinks/${id}/steps`],
        ["size", "Size", `/drinks/${id}/size`],
        ["plan", "Plan", `/drinks/${id}/plan`],
        ["make", "Make", `/drinks/${id}/make`],
        ["history", "History", `/drinks/${id}/history`],
      ].map(([key, name, to]) => (
        <Button
          key={key}
          component={Link}
          to={to!}
          replace
          aria-current={view === key ? "page" : undefined}
          sx={{
            borderRadius: 99,
            minHeight: 44,
            flex: "none",
            px: { xs: 1.5, md: 2 },
            bgcolor: view === key ? colour("ink") : "transparent",
            color: view === key ? colour("ground") : colour("muted"),
            "&:hover": { bgcolor: view === key ? colour("ink") : colour("wash") },
          }}
        >
          {name}
        </Button>
      ))}
    </Box>
  );
}

function Undo({ editor }: { editor: Editor }) {
  const canUndo = useStore(editor.store, (s) => s.canUndo);
  const canRedo = useStore(editor.store, (s) => s.canRedo);
  return (
    <UndoButtons canUndo={canUndo} canRedo={canRedo} onUndo={editor.undo} onRedo={editor.redo} />
  );
}

/** What stands between this screen and the shelf. */
function Troubles({ editor }: { editor: Editor }) {
  const saving = useStore(editor.store, (s) => s.saving);
  const problem = useStore(editor.store, (s) => s.problem);
  const silence = useStore(editor.store, (s) => s.silence);
  const { create } = useShelfActions();
  const go = useNavigate();
  if (saving.phase === "conflict") {
    const keepBoth = async () => {
      const { drink } = editor.store.getState();
      const copy = await create.mutateAsync({ ...drink, name: `${drink.name}, mine` });
      editor.takeTheirs();
      void go(`/drinks/${copy.id}`);
    };
    return (
      <Conflict
        what="drink"
        changedAt={saving.theirs.changed_at}
        onKeepMine={editor.keepMine}
        onTakeTheirs={editor.takeTheirs}
        onKeepBoth={() => void keepBoth()}
      />
    );
  }
  if (saving.phase === "waiting") return <NotSavedYet why={saving.why} />;
  if (silence) return <Note kind="notice">{silence} Trying again…</Note>;
  const wrong = problem ?? (saving.phase === "refused" ? saving.problem : undefined);
  if (wrong) {
    return (
      <Note kind="stop" action={<Button onClick={editor.undo}>Undo</Button>}>
        {wrong.detail}
        {saving.phase === "refused" && " This was not saved."}
      </Note>
    );
  }
  return null;
}
