import { memo, useEffect, useMemo, useRef, useState } from "react";
import type { Block, Plan, PlanAnswer } from "../api/client";
import { span, volume } from "../ui/format";
import { tokens } from "../ui/theme";
import { useSize } from "../ui/useSize";
import { VesselDrawing } from "../ui/vessel";
import { stripScale, type Scale, type Span } from "./scale";
import { date, hour, hours, movedBy, type Clock, weekday } from "./times";
import look from "./Strip.module.css";

interface StripProps {
  answer: PlanAnswer;
  plan: Plan;
  clock: Clock;
  /** Upright, as on a phone. */
  upright: boolean;
  /** A task of the block that is open. */
  chosen: string | undefined;
  onChoose: (task: string | undefined) => void;
  onDrink: (entry: string) => void;
  /** Serving is moved by so many minutes; `done` when it is let go. */
  onServing: (by: number, done: boolean) => void;
}

/** How wide or high things are, lying and upright. */
const sizes = {
  lying: { axis: 46, cook: 16, drink: 62, ring: 15, block: 36, names: 152, gap: 16 },
  upright: { axis: 46, cook: 13, drink: 52, ring: 11, block: 44, names: 46, gap: 8 },
};

/** Serving is moved in such steps, minutes. */
const STEP = 5;
/** The height of a label, px. */
const WORDS = 16;
/** How far back it is shown that work has moved, px. */
const CAME = 26;
/** A letter of a label takes about so many px. */
const LETTER = 6.7;

/** Of a drink with nothing to see in it. */
const NO_COLOUR = tokens.light.track;

/** Whether dark letters are read on a colour. */
export function isLight(hex: string): boolean {
  const part = (at: number) => parseInt(hex.slice(at, at + 2), 16) / 255;
  const linear = (c: number) => (c <= 0.04045 ? c / 12.92 : ((c + 0.055) / 1.055) ** 2.4);
  return 0.2126 * linear(part(1)) + 0.7152 * linear(part(3)) + 0.0722 * linear(part(5)) > 0.2;
}

/** One strip of time: hands on top, a lane for each drink, rings below; serving and now as lines. */
export const Strip = memo(function Strip(props: StripProps) {
  const { answer, plan, clock, upright, chosen, onChoose, onDrink, onServing } = props;
  const [ref, size] = useSize<HTMLDivElement>();
  const s = upright ? sizes.upright : sizes.lying;
  const shown = useMemo(() => answer.drinks.filter((d) => d.position != null), [answer]);
  const length = upright ? 1500 : Math.max(size.width - 44, 300);
  const drag = useDrag(onServing, upright);

  const scale = useMemo(() => {
    const work: Span[] = [
      ...plan.blocks,
      ...shown.map((d) => ({ from: d.serve_at, to: d.serve_at })),
    ];
    return stripScale(work, { from: plan.begins - 12, to: Math.max(plan.ends, 0) + 12 }, length);
  }, [plan, shown, length]);
  const total = scale.segments.at(-1)?.end ?? 0;

  // Where each lane begins across the strip.
  const cooksAt = s.axis;
  const handsTake = Math.max(plan.cooks.length * s.cook, upright ? 0 : 30);
  const drinksAt = cooksAt + handsTake + s.gap;
  const ringsAt = drinksAt + shown.length * s.drink + s.gap / 2;
  const rings = plan.rings.filter((ring) => ring.length > 0);
  const across = ringsAt + rings.length * s.ring + s.gap;

  /** A box that goes along the time from one moment to another, at a place across. */
  const box = (from: number, to: number, place: number, thick: number, least = 0) => {
    const start = scale.at(from);
    const long = Math.max(scale.at(to) - start, least);
    return upright
      ? { top: start, height: long, left: place, width: thick }
      : { left: start, width: long, top: place, height: thick };
  };
  const point = (at: number, place: number) =>
    upright ? { top: scale.at(at), left: place } : { left: scale.at(at), top: place };
  const lineAt = (at: number, thick: number, from = 0, to = across) =>
    upright
      ? { top: scale.at(at) - thick / 2, height: thick, left: from, width: to - from }
      : { left: scale.at(at) - thick / 2, width: thick, top: from, height: to - from };

  /** Goes of one drink may overlap: they take turns in the two halves of its lane. */
  const goOf = new Map(plan.tasks.map((task) => [task.id, task.go]));
  const inLane = (drink: number, go: number) => {
    const goes = plan.goes[drink] ?? 1;
    const start = drinksAt + drink * s.drink;
    if (goes === 1 || go > goes) return { place: start, thick: s.block, words: start - 1 };
    // In half a row what stands there runs where words would be: those stand over or under it.
    const half = s.block / 2 - 1;
    const lower = (go - 1) % 2 === 1;
    return lower
      ? { place: start + half + 2, thick: half, words: start + s.block }
      : { place: start, thick: half, words: start - WORDS };
  };

  const isOpen = (at: number) =>
    scale.segments.some((seg) => !seg.folded && at >= seg.from && at <= seg.to);
  const marks = hours(clock, plan.begins - 12, plan.ends + 12).filter(
    // At the serving the flag says it.
    (mark) => isOpen(mark.at) && Math.abs(mark.at) > 1,
  );

  return (
    <div
      data-strip
      style={{
        display: upright ? "block" : "grid",
        gridTemplateColumns: `${s.names}px minmax(0, 1fr)`,
      }}
    >
      {upright ? (
        <div style={{ position: "relative", height: 46 }}>
          {shown.map((drink, i) => (
            <button
              key={drink.id}
              className={`${look.lane} ${look.column}`}
              style={{ left: drinksAt + i * s.drink, width: s.drink - 4, minHeight: 44 }}
              onClick={() => onDrink(drink.id)}
            >
              <span>{drink.name}</span>
            </button>
          ))}
        </div>
      ) : (
        <div style={{ position: "relative" }}>
          <Name at={cooksAt - 3} title="Hands" under={many(plan.cooks.length, "cook")} />
          {shown.map((drink, i) => (
            <button
              key={drink.id}
              className={look.lane}
              style={{ top: drinksAt + i * s.drink, height: s.drink - 4 }}
              onClick={() => onDrink(drink.id)}
              aria-label={`${drink.name}: size and time`}
            >
              <strong>{drink.name}</strong>
              <span>
                {volume(drink.volume_ml)}
                {(plan.goes[drink.position!] ?? 1) > 1 &&
                  `, in ${plan.goes[drink.position!]} rounds`}
              </span>
            </button>
          ))}
          {rings.length > 0 && (
            <Name at={ringsAt - 4} title="Burners" under={`${rings.length} in use`} />
          )}
        </div>
      )}
      <div ref={ref} className={look.strip} data-upright={upright} tabIndex={upright ? -1 : 0}>
        <div
          className={look.plate}
          role="group"
          aria-label="Timeline"
          style={
            upright ? { height: total - 4, width: across } : { width: total + 8, height: across }
          }
        >
          <Folds scale={scale} clock={clock} upright={upright} across={across} plan={plan} />
          {marks.map((mark) => (
            <div key={mark.at}>
              <div className={look.hourLine} style={lineAt(mark.at, 1, upright ? 40 : 24)} />
              <div
                className={look.hour}
                style={
                  upright
                    ? { top: scale.at(mark.at) - 9, left: 0 }
                    : { left: scale.at(mark.at) + 4, top: 22 }
                }
              >
                {(upright || isOpen(mark.at + 40 / scale.perMinute)) && mark.text}
              </div>
            </div>
          ))}
          {plan.cooks.map((busy, cook) =>
            busy.map((b) => (
              <div
                key={`${cook}-${b.from}`}
                className={look.busy}
                style={box(b.from, b.to, cooksAt + cook * s.cook, s.cook - 4, 2)}
              />
            )),
          )}
          {shown.map((drink, i) => {
            const mine = plan.blocks
              .filter((block) => block.drink === i)
              .map((block) => block.from);
            const from = Math.min(...mine, drink.serve_at);
            const edge = drinksAt + i * s.drink + s.block - 1;
            return (
              <div
                key={drink.id}
                className={look.edge}
                style={box(from, drink.serve_at, edge, 2)}
              />
            );
          })}
          {plan.rests.map((rest) => {
            const lane = inLane(rest.drink, goOf.get(rest.task) ?? 1);
            return (
              <div
                key={`${rest.task}-${rest.from}-${rest.label}`}
                className={look.rest}
                data-needed={rest.needed}
                title={`${rest.label}, ${span(rest.to - rest.from)}`}
                style={{
                  ...box(rest.from, rest.to, lane.place + lane.thick - 8, 7),
                  background: shown[rest.drink]?.colour ?? undefined,
                }}
              />
            );
          })}
          {shown.map((drink, i) => (
            <div
              key={drink.id}
              className={look.ownServing}
              style={lineAt(
                drink.serve_at,
                4,
                drinksAt + i * s.drink - 2,
                drinksAt + i * s.drink + s.block + 4,
              )}
            />
          ))}
          {plan.blocks.map((block) => {
            const lane = inLane(block.drink, block.go);
            return (
              <Work
                key={block.tasks[0]}
                block={block}
                plan={plan}
                clock={clock}
                scale={scale}
                upright={upright}
                name={shown[block.drink]?.name ?? ""}
                colour={shown[block.drink]?.colour ?? NO_COLOUR}
                style={box(block.from, block.to, lane.place, lane.thick, 9)}
                wordsAt={lane.words}
                thick={lane.thick}
                chosen={chosen !== undefined && block.tasks.includes(chosen)}
                onChoose={onChoose}
              />
            );
          })}
          {rings.map((busy, ring) =>
            busy.map((b) => (
              <div
                key={`${ring}-${b.from}`}
                className={look.busy}
                data-of="ring"
                style={box(b.from, b.to, ringsAt + ring * s.ring, s.ring - 4, 2)}
              />
            )),
          )}
          <Now
            answer={answer}
            plan={plan}
            clock={clock}
            lineAt={(at) => lineAt(at, 2)}
            nameAt={(at) => point(at, across - 14)}
          />
          <div className={look.serving} style={lineAt(drag.by, 3, upright ? 40 : 30)} />
          <button
            className={look.flag}
            role="slider"
            aria-label="Serving"
            aria-valuenow={drag.by}
            aria-valuetext={`${weekday(clock, drag.by)} ${hour(clock, drag.by)}`}
            style={
              upright
                ? { top: scale.at(drag.by) - 22, right: 0, minHeight: 44 }
                : { left: scale.at(drag.by), top: 0, transform: "translateX(-100%)" }
            }
            onPointerDown={(event) => drag.start(event, scale.perMinute)}
            onPointerMove={drag.move}
            onPointerUp={drag.end}
            onPointerCancel={drag.cancel}
            onKeyDown={(event) => {
              const by = { ArrowLeft: -STEP, ArrowDown: -STEP, ArrowRight: STEP, ArrowUp: STEP }[
                event.key
              ];
              if (by === undefined) return;
              event.preventDefault();
              onServing(by, true);
            }}
          >
            {hour(clock, drag.by)}
          </button>
        </div>
      </div>
    </div>
  );
});

/** The present time in minutes of the plan: it goes on while nothing is asked. */
export function useNowOf(answer: Pick<PlanAnswer, "now">): number {
  const [passed, setPassed] = useState(0);
  useEffect(() => {
    const heard = Date.now();
    const timer = setInterval(() => setPassed((Date.now() - heard) / 60_000), 10_000);
    return () => {
      clearInterval(timer);
      setPassed(0);
    };
  }, [answer]);
  return answer.now + passed;
}

interface NowProps {
  answer: PlanAnswer;
  plan: Plan;
  clock: Clock;
  lineAt: (at: number) => React.CSSProperties;
  nameAt: (at: number) => React.CSSProperties;
}

/** The line of the present time, which alone is drawn anew as it goes on. */
function Now({ answer, plan, clock, lineAt, nameAt }: NowProps) {
  const now = useNowOf(answer);
  if (now <= plan.begins || now >= Math.max(plan.ends, 0)) return null;
  return (
    <>
      <div className={look.now} style={lineAt(now)} />
      <div className={look.nowName} style={nameAt(now)}>
        now, {hour(clock, now)}
      </div>
    </>
  );
}

/** Moving the flag: it goes with the finger; what follows from it is worked out when it is let go. */
function useDrag(onServing: StripProps["onServing"], upright: boolean) {
  const [by, setBy] = useState(0);
  const from = useRef<{ at: number; perMinute: number } | undefined>(undefined);
  const place = (event: React.PointerEvent) => (upright ? event.clientY : event.clientX);
  /** The finger was taken from it, by a call or a gesture of the phone: nothing has moved. */
  const cancel = () => {
    from.current = undefined;
    setBy(0);
  };
  return {
    by,
    start(event: React.PointerEvent, perMinute: number) {
      event.currentTarget.setPointerCapture(event.pointerId);
      from.current = { at: place(event), perMinute };
    },
    move(event: React.PointerEvent) {
      if (!from.current) return;
      const minutes = (place(event) - from.current.at) / from.current.perMinute;
      setBy(Math.round(minutes / STEP) * STEP);
    },
    end() {
      if (from.current && by !== 0) onServing(by, true);
      cancel();
    },
    cancel,
  };
}

function many(count: number, noun: string): string {
  return `${count} ${noun}${count === 1 ? "" : "s"}`;
}

function Name({ at, title, under }: { at: number; title: string; under: string }) {
  return (
    <div className={look.lane} style={{ top: at }}>
      <strong>{title}</strong>
      <span>{under}</span>
    </div>
  );
}

interface FoldsProps {
  scale: Scale;
  clock: Clock;
  upright: boolean;
  across: number;
  plan: Plan;
}

/** Stretches in which nobody does anything, folded. */
function Folds({ scale, clock, upright, across, plan }: FoldsProps) {
  return scale.segments
    .filter((segment) => segment.folded)
    .map((segment) => {
      const night = plan.closed.some((c) => c.night && c.from < segment.to && c.to > segment.from);
      const newDay = date(clock, segment.from) !== date(clock, segment.to);
      const long = segment.end - segment.start;
      const style = upright
        ? { top: segment.start, height: long, left: 40, width: across - 40 }
        : { left: segment.start, width: long, top: 24, height: across - 24 };
      const nameStyle = upright
        ? { top: segment.start + long / 2 - 17, left: 40, width: across - 40 }
        : { left: segment.start, width: long, top: across - 40 };
      return (
        <div key={segment.from}>
          <div className={look.fold} style={style} />
          <div className={look.foldName} style={nameStyle}>
            {night ? "night" : `${span(segment.to - segment.from)} free`}
            {newDay && (
              <>
                <br />
                {weekday(clock, segment.to)}
              </>
            )}
          </div>
        </div>
      );
    });
}

interface WorkProps {
  block: Block;
  plan: Plan;
  clock: Clock;
  scale: Scale;
  upright: boolean;
  name: string;
  colour: string;
  style: React.CSSProperties;
  /** Where its words stand beside it, across the time. */
  wordsAt: number;
  thick: number;
  chosen: boolean;
  onChoose: (task: string | undefined) => void;
}

/** Handwork in a row: the vessel that it is done in, as wide as it takes. Its label stands in it, or beside it where there is room, or nowhere. */
function Work(props: WorkProps) {
  const { block, plan, clock, scale, upright, name, colour, style, wordsAt, thick } = props;
  const first = block.tasks[0]!;
  const mine = plan.tasks.filter((task) => block.tasks.includes(task.id));
  const held = mine.some((task) => task.held);
  const moved = mine[0]?.moved ?? 0;
  // A short way is enough to see that it came from before.
  const came = moved > 0 ? Math.min(scale.at(block.from) - scale.at(block.from - moved), CAME) : 0;
  const state = block.done ? ", done" : moved !== 0 ? `, ${movedBy(moved)}` : "";
  const words = block.label.length * LETTER;
  const long = upright ? thick : Number(style.width);
  const inside = words + 16 <= long && Number(style.height) >= 17;
  const [wide, high] = [Number(style.width), Number(style.height)];
  const next = plan.blocks
    .filter((other) => other.drink === block.drink && other.from > block.from && other !== block)
    .map((other) => scale.at(other.from));
  const room = Math.min(...next, scale.at(plan.ends)) - scale.at(block.from) - long;
  return (
    <>
      <button
        className={look.block}
        data-plan-block
        style={style}
        data-light={isLight(colour)}
        data-held={held}
        data-done={block.done}
        aria-pressed={props.chosen}
        aria-label={`${hour(clock, block.from)} to ${hour(clock, block.to)}, ${name}: ${block.label}${state}`}
        onClick={() => props.onChoose(props.chosen ? undefined : first)}
      >
        <svg width="100%" height="100%" aria-hidden>
          <g transform={`translate(${wide / 2} ${high - 1})`}>
            <VesselDrawing
              plain
              kind={block.vessel}
              width={wide - 3}
              height={high - 5}
              fill={0.74}
              liquid={colour}
            />
          </g>
        </svg>
        {inside && <span className={look.inBlock}>{block.label}</span>}
      </button>
      {came > 3 && (
        <div
          className={look.came}
          style={
            upright
              ? { top: Number(style.top) - came, height: came, left: Number(style.left) + wide / 2 }
              : { left: Number(style.left) - came, width: came, top: Number(style.top) + high / 2 }
          }
          data-upright={upright}
        />
      )}
      {!inside && !upright && room > words + 12 && (
        <div
          className={look.beside}
          style={{ left: scale.at(block.from) + long + 6, top: wordsAt }}
        >
          {block.label}
        </div>
      )}
    </>
  );
}
