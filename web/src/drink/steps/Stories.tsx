import { useDroppable } from "@dnd-kit/core";
import { SortableContext, rectSortingStrategy, useSortable } from "@dnd-kit/sortable";
import { CSS } from "@dnd-kit/utilities";
import { GripVertical, Plus } from "lucide-react";
import type { Drink, DrinkReport, Step } from "../../api/client";
import { depth, span, temperature, volume } from "../../ui/format";
import { COLUMN, standingOf } from "../counter/Counter";
import { inAmounts, storyOf } from "./story";
import look from "./Stories.module.css";

export interface StoriesProps {
  drink: Drink;
  report: DrinkReport;
  chosen: string | undefined;
  onChoose: (step: string | undefined) => void;
  /** A new step is wanted at a place. */
  onGap: (at: number, vessel?: string) => void;
  /** After how many steps one looks; what is ahead of that fades. */
  moment: number;
}

/** Each vessel's own steps above it, numbered through the whole making. */
export function Stories({ drink, report, chosen, onChoose, onGap, moment }: StoriesProps) {
  const vessels = standingOf(report);
  const columns = storyOf(drink, report, vessels);
  return (
    <SortableContext
      items={drink.steps.map((step) => step.id ?? "")}
      strategy={rectSortingStrategy}
    >
      <div
        className={look.stories}
        style={{ gridTemplateColumns: `repeat(${vessels.length}, minmax(${COLUMN}px, 1fr))` }}
      >
        {vessels.map((v, i) => (
          <Column key={v.id} id={v.id} name={v.name}>
            {columns[i]!.map((at) => (
              <Line
                key={drink.steps[at]!.id}
                step={drink.steps[at]!}
                at={at}
                report={report}
                last={at === columns[i]!.at(-1)}
                chosen={chosen === drink.steps[at]!.id}
                ahead={at >= moment}
                onChoose={onChoose}
                onGap={onGap}
              />
            ))}
            <button
              type="button"
              className={look.more}
              aria-label={`Add a step in the ${v.name.toLowerCase()}`}
              onClick={() => onGap((columns[i]!.at(-1) ?? drink.steps.length - 1) + 1, v.id)}
            >
              <Plus size={15} aria-hidden /> Add a step
            </button>
          </Column>
        ))}
      </div>
    </SortableContext>
  );
}

/** What stands above one vessel; a step that is dropped on it goes there. */
function Column(props: { id: string; name: string; children: React.ReactNode }) {
  const { setNodeRef, isOver } = useDroppable({ id: `vessel ${props.id}` });
  return (
    <div
      ref={setNodeRef}
      role="group"
      aria-label={`Steps in the ${props.name.toLowerCase()}`}
      className={isOver ? `${look.column} ${look.over}` : look.column}
    >
      {props.children}
    </div>
  );
}

interface LineProps {
  step: Step;
  at: number;
  report: DrinkReport;
  last: boolean;
  chosen: boolean;
  ahead: boolean;
  onChoose: StoriesProps["onChoose"];
  onGap: StoriesProps["onGap"];
}

/** Steps after which one wants to know what is there. */
const TELLING = ["strain", "top_up", "stir", "reduce", "dissolve", "pour", "rinse", "squeeze"];

function Line({ step, at, report, last, chosen, ahead, onChoose, onGap }: LineProps) {
  const { setNodeRef, setActivatorNodeRef, attributes, listeners, transform, isDragging } =
    useSortable({ id: step.id ?? "" });
  const frame = report.frames[at];
  if (!frame) return null;
  const stop = frame.notices.find((n) => n.severity === "stop");
  const tells = chosen || last || TELLING.some((kind) => kind in step.do);
  const state = frame.states.find((s) => s.vessel === frame.vessel);
  const waits = frame.minutes - frame.hands_on_minutes;
  const time = frame.minutes >= 3 && [
    span(frame.minutes),
    waits > 0.8 * frame.minutes && frame.minutes > 15 ? "unattended" : "",
  ];
  const facts = [
    tells && state && state.liquid_ml >= 1 && volume(state.level_ml),
    chosen && frame.water_line_mm != null && `line at ${depth(frame.water_line_mm)}`,
    tells && state && state.brix >= 0.05 && `${state.brix.toFixed(1)} °Bx`,
    tells &&
      state &&
      state.acidity_percent >= 0.005 &&
      `${state.acidity_percent.toFixed(2)} % acid`,
    chosen && state && temperature(state.temperature_c),
  ].filter(Boolean);
  const care = frame.cautions.length > 0;
  const classes = [look.line, chosen && look.chosen, ahead && look.ahead, stop && look.stop];
  return (
    <div
      ref={setNodeRef}
      className={classes.filter(Boolean).join(" ")}
      style={{
        transform: CSS.Translate.toString(transform),
        zIndex: isDragging ? 3 : undefined,
      }}
    >
      <button
        type="button"
        className={look.between}
        aria-label={at > 0 ? `Add a step after step ${at}` : "Add a step before the first"}
        onClick={() => onGap(at, frame.vessel ?? undefined)}
      >
        <Plus size={14} aria-hidden />
      </button>
      <button
        type="button"
        className={look.step}
        aria-pressed={chosen}
        aria-label={`${at + 1} ${frame.sentence}`}
        data-step={step.id}
        onClick={() => onChoose(chosen ? undefined : step.id)}
      >
        <span className={look.number}>{at + 1}</span>
        <span className={look.text}>
          {inAmounts(frame.short.replace(/\.$/, "")).map(([text, isAmount], i) =>
            isAmount ? <b key={i}>{text}</b> : <span key={i}>{text}</span>,
          )}
          {(time || facts.length > 0) && (
            <span className={look.facts}>
              {time && <strong>{time.filter(Boolean).join(" ")}</strong>}
              {time && facts.length > 0 && " · "}
              {facts.join(" · ")}
            </span>
          )}
          {stop && <span className={look.warn}>{stop.message}</span>}
          {!stop && care && (
            <span className={look.facts}>
              {frame.cautions.some((c) => c.adult) ? "for an adult" : "take care"}
            </span>
          )}
        </span>
      </button>
      <button
        type="button"
        ref={setActivatorNodeRef}
        className={look.grip}
        {...attributes}
        {...listeners}
        aria-label={`Move step ${at + 1}`}
        title="Drag to another place or vessel"
      >
        <GripVertical size={15} aria-hidden />
      </button>
    </div>
  );
}
