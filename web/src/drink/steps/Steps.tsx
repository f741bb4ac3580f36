import {
  type Announcements,
  type CollisionDetection,
  DndContext,
  KeyboardSensor,
  PointerSensor,
  type UniqueIdentifier,
  closestCenter,
  pointerWithin,
  useSensor,
  useSensors,
} from "@dnd-kit/core";
import { sortableKeyboardCoordinates } from "@dnd-kit/sortable";
import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Slider from "@mui/material/Slider";
import useMediaQuery from "@mui/material/useMediaQuery";
import { Plus } from "lucide-react";
import { Fragment, memo, useRef, useState } from "react";
import type { Drink, DrinkReport, Step } from "../../api/client";
import { colour } from "../../ui/theme";
import { depth, span, temperature, volume } from "../../ui/format";
import type { Editor } from "../editing/editor";
import { laneOf, pathOf } from "../editing/actions";
import { moveStepTo } from "../editing/changes";
import { COLUMN, Counter, standingOf } from "../counter/Counter";
import { AddStep, vesselInHand } from "./AddStep";
import { TypeSteps } from "./TypeSteps";
import { Compare } from "./Compare";
import { OnPaper } from "./OnPaper";
import { tryOrder } from "./order";
import { StepPanel } from "./StepPanel";
import { Stories } from "./Stories";
import { inVessel, statesAfter } from "./story";
import look from "./Steps.module.css";

interface StepsProps {
  editor: Editor;
  drink: Drink;
  report: DrinkReport;
}

/** The making: each vessel's own steps above it, and the vessels as they are at any moment of it. */
const Steps = memo(function Steps({ editor, drink, report }: StepsProps) {
  const [chosen, setChosen] = useState<string | undefined>();
  /** Where the next new step comes and in which vessel, if a plus was pressed. */
  const [gap, setGap] = useState<{ at: number; vessel?: string | undefined } | undefined>();
  /** Why a move was refused, or the steps as it left them: it can be put back until something else is changed. */
  const [said, setSaid] = useState<{ refused?: string; moved?: Drink["steps"] }>({});
  const [comparing, setComparing] = useState(false);
  const [printing, setPrinting] = useState(false);
  const [vessel, setVessel] = useState<string | undefined>();
  const [asList, setAsList] = useState(false);
  const [looked, setLooked] = useState<number | undefined>();
  const narrow = useMediaQuery("(max-width: 899px)");
  const listed = narrow || asList;
  const step = drink.steps.find((s) => s.id === chosen);
  const choose = (id: string | undefined) => {
    setGap(undefined);
    setLooked(undefined);
    setChosen(id);
  };
  const palette = useRef<HTMLDivElement>(null);
  const between = (at: number, vessel?: string) => {
    setChosen(undefined);
    setGap({ at, vessel });
    requestAnimationFrame(() => {
      if (listed) palette.current?.scrollIntoView({ block: "center" });
      palette.current
        ?.querySelector<HTMLElement>("[role=combobox]")
        ?.focus({ preventScroll: true });
    });
  };
  const move = async (id: string, to: number, vessel?: string) => {
    setSaid({});
    const moved = drink.steps.find((s) => s.id === id);
    const change = (d: Drink) => moveStepTo(id, to)(vessel ? inVessel(moved, vessel)(d) : d);
    const refused = await tryOrder(editor, drink, report, change);
    setSaid(refused ? { refused } : { moved: editor.store.getState().drink.steps });
  };
  const all = drink.steps.length;
  const place = gap?.at ?? (step ? drink.steps.indexOf(step) + 1 : undefined);
  const moment = Math.min(looked ?? (step ? drink.steps.indexOf(step) + 1 : all), all);
  const view = { drink, report, chosen, onChoose: choose, onGap: between };
  const opened = step !== undefined || gap !== undefined || all === 0;
  const close = () => {
    setChosen(undefined);
    setGap(undefined);
  };
  const panel = step && (
    <StepPanel
      key={step.id}
      editor={editor}
      drink={drink}
      report={report}
      step={step}
      onClose={close}
    />
  );
  const adding = (
    <div ref={palette} className="no-print">
      <TypeSteps
        editor={editor}
        drink={drink}
        at={place ?? all}
        vessel={vesselInHand(drink, place ?? all, gap?.vessel)?.id ?? ""}
        onAdded={(count, inHand) => {
          setChosen(undefined);
          setLooked(undefined);
          setGap({ at: (place ?? all) + count, vessel: inHand });
        }}
      />
      <AddStep
        key={gap?.vessel}
        editor={editor}
        drink={drink}
        report={report}
        place={place}
        vessel={gap?.vessel}
        onAdded={choose}
      />
    </div>
  );
  return (
    <>
      <Box
        sx={{
          flex: 1,
          display: "grid",
          gridTemplateColumns: {
            xs: "minmax(0, 1fr)",
            md: opened || listed ? "minmax(0, 1fr) 340px" : "minmax(0, 1fr)",
          },
          gap: { xs: 3, md: 0 },
          px: { xs: 2, md: 0 },
          minWidth: 0,
        }}
      >
        <OnPaper drink={drink} report={report} />
        {printing && <PictureCode id={editor.id} onReady={() => window.print()} />}
        <Box
          sx={{
            minWidth: 0,
            display: "flex",
            flexDirection: "column",
            "@media print": { display: "none" },
          }}
        >
          <Box
            className="no-print"
            sx={{
              display: "flex",
              flexWrap: "wrap",
              justifyContent: "flex-end",
              columnGap: 1,
              px: { md: 2.5 },
            }}
          >
            {said.refused && (
              <Box role="alert" sx={{ color: colour("stop"), fontSize: 14, mr: "auto", py: 1.25 }}>
                These steps can't be in that order. {said.refused}
              </Box>
            )}
            {said.moved === drink.steps && (
              <Box role="status" sx={{ fontSize: 14, mr: "auto" }}>
                Moved.{" "}
                <Button
                  sx={{ px: 1 }}
                  onClick={() => {
                    editor.undo();
                    setSaid({});
                  }}
                >
                  Move it back
                </Button>
              </Box>
            )}
            {!narrow && (
              <Button onClick={() => setAsList(!asList)} sx={quiet}>
                {asList ? "By vessel" : "As a list"}
              </Button>
            )}
            <Button onClick={() => setComparing(true)} sx={quiet}>
              Compare with another way
            </Button>
            <Button onClick={() => (printing ? window.print() : setPrinting(true))} sx={quiet}>
              Print the recipe
            </Button>
          </Box>
          {listed ? (
            <List {...view} panel={narrow && panel} />
          ) : (
            <Sorting drink={drink} report={report} onMove={move}>
              <Box sx={{ flex: 1, display: "flex", flexDirection: "column", overflowX: "auto" }}>
                <Box
                  sx={{
                    flex: 1,
                    display: "flex",
                    flexDirection: "column",
                    minWidth: standingOf(report).length * COLUMN,
                  }}
                >
                  <Stories {...view} moment={moment} />
                </Box>
              </Box>
            </Sorting>
          )}
          {narrow && adding}
          {comparing && (
            <Compare drink={drink} report={report} onClose={() => setComparing(false)} />
          )}
          {!narrow && (
            <Counter
              editor={editor}
              drink={drink}
              report={report}
              chosen={vessel}
              onChoose={setVessel}
              low
              aligned
              moment={moment < all ? statesAfter(report, moment) : undefined}
            >
              <Walk
                moment={moment}
                all={all}
                onLook={(at) => setLooked(at === all ? undefined : at)}
              />
            </Counter>
          )}
        </Box>
        {!narrow && (opened || listed) && (
          <Box
            className="no-print"
            sx={{
              position: "sticky",
              alignSelf: "start",
              top: 8,
              maxHeight: "calc(100dvh - 16px)",
              overflowY: "auto",
              pr: 2.5,
              pb: 2,
            }}
          >
            {!step && gap && (
              <Button onClick={close} sx={{ float: "right", minWidth: 0, px: 1 }}>
                Close
              </Button>
            )}
            {panel}
            {adding}
          </Box>
        )}
      </Box>
      {narrow && (
        <Counter
          editor={editor}
          drink={drink}
          report={report}
          chosen={vessel}
          onChoose={setVessel}
          low
        />
      )}
    </>
  );
});

/** On paper: the picture code that gives the drink back. A large drink has two. */
function PictureCode({ id, onReady }: { id: string; onReady: () => void }) {
  return (
    <Box
      sx={{
        // It loads as well where nobody sees it.
        position: "absolute",
        left: -9999,
        "@media print": { position: "static", mt: 2, breakInside: "avoid" },
      }}
    >
      <Box sx={{ fontSize: 12 }}>
        Keen Pitcher reads this drink back from a photo of the code: Paste a recipe, From a photo of
        a card.
      </Box>
      <Box
        component="img"
        src={`/api/drinks/${id}/code`}
        alt="Picture code of this drink"
        onLoad={onReady}
        onError={onReady}
        sx={{ height: "7.5cm" }}
      />
    </Box>
  );
}

const quiet = { px: 1, fontSize: 14, color: colour("muted"), fontWeight: 500 };

/** Walks through the making: the vessels above show what is in them after a step. */
function Walk(props: { moment: number; all: number; onLook: (at: number) => void }) {
  const { moment, all, onLook } = props;
  if (all === 0) return null;
  const said = (at: number) =>
    at === 0 ? "before the first step" : at === all ? "at the end" : `after step ${at} of ${all}`;
  return (
    <Box
      sx={{
        bgcolor: colour("worktop"),
        px: 3,
        display: "grid",
        gridTemplateColumns: "minmax(0, 1fr) 150px",
        columnGap: 3,
        alignItems: "center",
      }}
    >
      <Slider
        aria-label="Walk through the steps"
        size="small"
        min={0}
        max={all}
        step={1}
        marks
        value={moment}
        getAriaValueText={said}
        onChange={(_, at) => onLook(at as number)}
      />
      <Box sx={{ fontSize: 13, fontWeight: 600, whiteSpace: "nowrap" }}>{said(moment)}</Box>
    </Box>
  );
}

/** The line that is nearest in the column under the pointer, or the column itself where it is empty. */
const nearest: CollisionDetection = (args) => {
  const isColumn = (id: UniqueIdentifier) => String(id).startsWith("vessel ");
  const lines = args.droppableContainers.filter(({ id }) => !isColumn(id));
  const column = pointerWithin(args).find(({ id }) => isColumn(id));
  if (!column) return closestCenter({ ...args, droppableContainers: lines });
  const under = args.droppableRects.get(column.id);
  const inside = lines.filter(({ id }) => {
    const rect = args.droppableRects.get(id);
    const middle = rect ? rect.left + rect.width / 2 : NaN;
    return under && middle > under.left && middle < under.right;
  });
  return inside.length > 0 ? closestCenter({ ...args, droppableContainers: inside }) : [column];
};

/** Lets steps be dragged to another place in the order, by mouse, finger or keys. */
function Sorting(props: {
  drink: Drink;
  report: DrinkReport;
  onMove: (step: string, to: number, vessel?: string) => Promise<void>;
  children: React.ReactNode;
}) {
  const { drink, report, onMove, children } = props;
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 8 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  return (
    <DndContext
      sensors={sensors}
      collisionDetection={nearest}
      accessibility={{ announcements: spokenMoves(drink, report) }}
      onDragEnd={({ active, over }) => {
        const from = drink.steps.findIndex((step) => step.id === active.id);
        if (!over || active.id === over.id || from < 0) return;
        const was = report.frames[from]?.vessel;
        const onto = String(over.id).match(/^vessel (.*)$/)?.[1];
        const to = drink.steps.findIndex((step) => step.id === over.id);
        const vessel = onto ?? report.frames[to]?.vessel ?? undefined;
        const other = vessel === was ? undefined : vessel;
        if (to >= 0) void onMove(String(active.id), to, other);
        else if (other) void onMove(String(active.id), from, other);
      }}
    >
      {children}
    </DndContext>
  );
}

/** What is said while a step is moved, to those who listen: by what it does, not by its id. */
function spokenMoves(drink: Drink, report: DrinkReport): Announcements {
  const named = (id: string | number) => {
    const sentence = report.frames.find((frame) => frame.step === id)?.sentence;
    return sentence ? `“${sentence}”` : "the step";
  };
  const place = (id: string | number) =>
    `place ${drink.steps.findIndex((step) => step.id === id) + 1} of ${drink.steps.length}`;
  return {
    onDragStart: ({ active }) => `You picked up ${named(active.id)}.`,
    onDragOver: ({ over }) => (over ? `Now at ${place(over.id)}.` : "It can't go here."),
    onDragEnd: ({ active, over }) =>
      over ? `Put ${named(active.id)} at ${place(over.id)}.` : `${named(active.id)} stays.`,
    onDragCancel: ({ active }) => `${named(active.id)} stays where it was.`,
  };
}

interface ViewProps {
  drink: Drink;
  report: DrinkReport;
  chosen: string | undefined;
  onChoose: (step: string | undefined) => void;
  /** A new step is wanted at a place. */
  onGap: (at: number) => void;
}

/** Between two steps: puts another one there. */
function Gap({ at, onGap }: { at: number; onGap: ViewProps["onGap"] }) {
  return (
    <button
      type="button"
      className={look.gap}
      aria-label={at > 0 ? `Add a step after step ${at}` : "Add a step before the first"}
      onClick={() => onGap(at)}
    >
      <Plus size={16} aria-hidden />
    </button>
  );
}

/** On a narrow screen: the steps under one another, the chosen one opened in its place. */
function List(props: ViewProps & { panel: React.ReactNode }) {
  const { drink, report, chosen, onChoose, onGap, panel } = props;
  return (
    <Box sx={{ display: "grid" }}>
      {drink.steps.map((step, i) => (
        <Fragment key={step.id}>
          <div className={look.between}>
            <Gap at={i} onGap={onGap} />
          </div>
          <Card
            step={step}
            number={i + 1}
            report={report}
            chosen={chosen === step.id}
            onChoose={onChoose}
            place={{}}
            flows={pathOf(step.do).length > 1}
          />
          {chosen === step.id && panel}
        </Fragment>
      ))}
    </Box>
  );
}

/** How long a step's bar is; by the root, so that minutes show beside hours. */
function timeShare(minutes: number, report: DrinkReport): number {
  const longest = Math.max(...report.frames.map((f) => f.minutes), 1);
  return Math.max(Math.sqrt(minutes / longest), 0.03);
}

interface CardProps {
  step: Step;
  number: number;
  report: DrinkReport;
  chosen: boolean;
  onChoose: (step: string | undefined) => void;
  place: React.CSSProperties;
  flows: boolean;
}

function Card({ step, number, report, chosen, onChoose, place, flows }: CardProps) {
  const frame = report.frames.find((f) => f.step === step.id);
  const state = frame?.states.find((s) => s.vessel === laneOf(step.do));
  const stop = frame?.notices.find((n) => n.severity === "stop");
  const classes = [look.card, chosen && look.chosen, flows && look.flows, stop && look.stop];
  const facts = state &&
    frame && [
      volume(state.level_ml),
      frame.water_line_mm != null && `line at ${depth(frame.water_line_mm)}`,
      state.brix >= 0.05 && `${state.brix.toFixed(1)} °Bx`,
      state.acidity_percent >= 0.005 && `${state.acidity_percent.toFixed(2)} % acid`,
      temperature(state.temperature_c),
      frame.minutes >= 3 && span(frame.minutes),
    ];
  return (
    <button
      type="button"
      className={classes.filter(Boolean).join(" ")}
      style={{ ...place, "--kp-stream": state?.colour } as React.CSSProperties}
      aria-pressed={chosen}
      data-step={step.id}
      onClick={() => onChoose(chosen ? undefined : step.id)}
    >
      <span className={look.number}>{number}</span>
      {frame?.sentence}
      {frame && frame.minutes >= 1 && (
        <span
          className={look.time}
          title={`${span(frame.minutes)}, ${span(frame.hands_on_minutes)} hands-on`}
          style={{ width: `${timeShare(frame.minutes, report) * 100}%` }}
        >
          <span style={{ width: `${(frame.hands_on_minutes / frame.minutes) * 100}%` }} />
        </span>
      )}
      {facts && <span className={look.state}>{facts.filter(Boolean).join(" · ")}</span>}
      {stop && <span className={look.warn}>{stop.message}</span>}
      {!stop && (frame?.cautions.length ?? 0) > 0 && (
        <span className={look.care}>
          {frame!.cautions.some((c) => c.adult) ? "for an adult" : "take care"}
        </span>
      )}
    </button>
  );
}

export default Steps;
