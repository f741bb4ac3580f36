import {
  type Announcements,
  DndContext,
  KeyboardSensor,
  PointerSensor,
  closestCenter,
  useSensor,
  useSensors,
} from "@dnd-kit/core";
import {
  SortableContext,
  sortableKeyboardCoordinates,
  useSortable,
  verticalListSortingStrategy,
} from "@dnd-kit/sortable";
import { CSS } from "@dnd-kit/utilities";
import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import useMediaQuery from "@mui/material/useMediaQuery";
import { GripVertical, Plus } from "lucide-react";
import { Fragment, memo, useRef, useState } from "react";
import type { Drink, DrinkReport, StateReport, Step } from "../../api/client";
import { colour, displayFont } from "../../app/theme";
import { span, temperature, volume } from "../../ui/format";
import type { Editor } from "../editing/editor";
import { laneOf, pathOf } from "./actions";
import { AddStep } from "./AddStep";
import { Compare } from "./Compare";
import { OnPaper } from "./OnPaper";
import { reorder } from "./order";
import { StepPanel } from "./StepPanel";
import look from "./Steps.module.css";

interface StepsProps {
  editor: Editor;
  drink: Drink;
  report: DrinkReport;
}

/** The making as lanes, a lane for each vessel, joined where they pour together. */
const Steps = memo(function Steps({ editor, drink, report }: StepsProps) {
  const [chosen, setChosen] = useState<string | undefined>();
  /** Where the next new step comes, if a plus was pressed. */
  const [gap, setGap] = useState<number | undefined>();
  /** Why a move was refused, or the steps as it left them: it can be put back until something else is changed. */
  const [said, setSaid] = useState<{ refused?: string; moved?: Drink["steps"] }>({});
  const palette = useRef<HTMLDivElement>(null);
  const [comparing, setComparing] = useState(false);
  const small = useMediaQuery("(max-width: 899px)");
  const step = drink.steps.find((s) => s.id === chosen);
  const choose = (id: string | undefined) => {
    setGap(undefined);
    setChosen(id);
  };
  const between = (at: number) => {
    setChosen(undefined);
    setGap(at);
    palette.current?.scrollIntoView({ block: "center" });
    palette.current?.querySelector<HTMLElement>("[role=combobox]")?.focus({ preventScroll: true });
  };
  const move = async (id: string, to: number) => {
    setSaid({});
    const refused = await reorder(editor, drink, report, id, to);
    setSaid(refused ? { refused } : { moved: editor.store.getState().drink.steps });
  };
  const place = gap ?? (step ? drink.steps.indexOf(step) + 1 : undefined);
  const view = { drink, report, chosen, onChoose: choose, onGap: between };
  const panel = step && (
    <StepPanel
      key={step.id}
      editor={editor}
      drink={drink}
      report={report}
      step={step}
      onClose={() => setChosen(undefined)}
    />
  );
  return (
    <Box
      sx={{
        flex: 1,
        display: "grid",
        gridTemplateColumns: {
          xs: "minmax(0, 1fr)",
          md: step ? "minmax(0, 1fr) 330px" : "minmax(0, 1fr)",
        },
        gap: 3,
        px: { xs: 2, md: 3.5 },
        pb: 3,
        minWidth: 0,
        alignItems: "start",
      }}
    >
      <OnPaper drink={drink} report={report} />
      <Box sx={{ minWidth: 0, "@media print": { display: "none" } }}>
        {small ? (
          <List {...view} panel={panel} />
        ) : (
          <Sorting drink={drink} report={report} onMove={move}>
            <Lanes {...view} />
          </Sorting>
        )}
        {said.refused && (
          <Box role="alert" sx={{ color: colour("stop"), fontSize: 14, mt: 1 }}>
            These steps can't be in that order. {said.refused}
          </Box>
        )}
        {said.moved === drink.steps && (
          <Box role="status" className="no-print" sx={{ fontSize: 14, mt: 1 }}>
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
        <div ref={palette} className="no-print">
          <AddStep editor={editor} drink={drink} report={report} place={place} onAdded={choose} />
        </div>
        <Box className="no-print" sx={{ display: "flex", flexWrap: "wrap", gap: 2, mt: 2 }}>
          <Button onClick={() => setComparing(true)} sx={{ px: 0 }}>
            Compare with another way
          </Button>
          <Button onClick={() => window.print()} sx={{ px: 0 }}>
            Print the recipe
          </Button>
        </Box>
        {comparing && <Compare drink={drink} report={report} onClose={() => setComparing(false)} />}
      </Box>
      {!small && panel}
    </Box>
  );
});

/** Lets steps be dragged to another place in the order, by mouse, finger or keys. */
function Sorting(props: {
  drink: Drink;
  report: DrinkReport;
  onMove: (step: string, to: number) => Promise<void>;
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
      collisionDetection={closestCenter}
      accessibility={{ announcements: spokenMoves(drink, report) }}
      onDragEnd={({ active, over }) => {
        const to = drink.steps.findIndex((step) => step.id === over?.id);
        if (over && active.id !== over.id && to >= 0) void onMove(String(active.id), to);
      }}
    >
      <SortableContext
        items={drink.steps.map((step) => step.id ?? "")}
        strategy={verticalListSortingStrategy}
      >
        {children}
      </SortableContext>
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
    onDragStart: ({ active }) => `You hold ${named(active.id)}.`,
    onDragOver: ({ over }) =>
      over ? `Now at ${place(over.id)}.` : "You're not over a valid place.",
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

/** What each vessel holds after each step. */
function statesAfter(report: DrinkReport): Map<string, StateReport>[] {
  let now = new Map<string, StateReport>();
  return report.frames.map((frame) => {
    now = new Map(now);
    for (const state of frame.states) now.set(state.vessel, state);
    return now;
  });
}

function Lanes({ drink, report, chosen, onChoose, onGap }: ViewProps) {
  const lanes = report.vessels;
  const states = statesAfter(report);
  const column = new Map(lanes.map((v, i) => [v.id, i + 1]));
  return (
    <Box sx={{ overflowX: "auto" }}>
      <div
        className={look.lanes}
        style={{ gridTemplateColumns: `repeat(${lanes.length}, minmax(132px, 1fr)) 44px` }}
      >
        {lanes.map((v) => (
          <div
            key={v.id}
            className={look.head}
            style={{ gridRow: 1, gridColumn: column.get(v.id) }}
          >
            <Box sx={{ ...displayFont, fontWeight: 700, fontSize: 16 }}>{v.name}</Box>
            <Box sx={{ fontSize: 12.5, color: colour("muted") }}>
              {v.strains ? "strainer" : volume(v.capacity_ml)}
            </Box>
          </div>
        ))}
        {drink.steps.map((step, i) => {
          const columns = pathOf(step.do)
            .map((id) => column.get(id))
            .filter((c) => c !== undefined);
          const first = Math.min(...columns, lanes.length);
          const last = Math.max(...columns, 1);
          return (
            <Fragment key={step.id}>
              <div
                className={look.between}
                style={{ gridRow: i + 2, gridColumn: lanes.length + 1 }}
              >
                <Gap at={i} onGap={onGap} />
              </div>
              {lanes.map((v) => {
                const state = states[i]?.get(v.id);
                // A film that clings to an emptied vessel is no level.
                const filled = state && state.liquid_ml > Math.max(20, v.capacity_ml * 0.02);
                return (
                  <div
                    key={v.id}
                    className={look.cell}
                    style={{ gridRow: i + 2, gridColumn: column.get(v.id) }}
                  >
                    <span
                      className={look.pipe}
                      style={{ background: filled ? state.colour : "transparent" }}
                    />
                  </div>
                );
              })}
              <SortableCard
                step={step}
                number={i + 1}
                report={report}
                chosen={chosen === step.id}
                onChoose={onChoose}
                place={{
                  gridRow: i + 2,
                  gridColumn: columns.length ? `${first} / ${last + 1}` : `1 / ${lanes.length + 1}`,
                }}
                flows={columns.length > 1}
              />
            </Fragment>
          );
        })}
      </div>
    </Box>
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

function SortableCard(props: CardProps) {
  const {
    setNodeRef,
    setActivatorNodeRef,
    attributes,
    listeners,
    transform,
    transition,
    isDragging,
  } = useSortable({ id: props.step.id ?? "" });
  return (
    <div
      ref={setNodeRef}
      className={look.sortable}
      style={{
        ...props.place,
        transform: CSS.Translate.toString(transform),
        transition,
        zIndex: isDragging ? 3 : undefined,
      }}
    >
      <Card {...props} place={{}} />
      <button
        type="button"
        ref={setActivatorNodeRef}
        className={look.grip}
        {...attributes}
        {...listeners}
        aria-label={`Move step ${props.number}`}
        title="Drag to another place"
      >
        <GripVertical size={16} aria-hidden />
      </button>
    </div>
  );
}

function Card({ step, number, report, chosen, onChoose, place, flows }: CardProps) {
  const frame = report.frames.find((f) => f.step === step.id);
  const state = frame?.states.find((s) => s.vessel === laneOf(step.do));
  const stop = frame?.notices.find((n) => n.severity === "stop");
  const classes = [look.card, chosen && look.chosen, flows && look.flows, stop && look.stop];
  const facts = state &&
    frame && [
      volume(state.level_ml),
      frame.water_line_mm != null && `line at ${frame.water_line_mm.toFixed(0)} mm`,
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
