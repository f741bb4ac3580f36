import type { Drink, Schemas, Step, Vessel, VesselKind } from "../../api/client";
import { type Action, held, nameOf, pathOf } from "./actions";

/** Changes of a recipe, as plain functions from one drink to the next. */

type Change = (drink: Drink) => Drink;
function withPart(step: Step, part: Record<string, unknown>): Step {
  return { ...step, do: { [nameOf(step.do)]: { ...held(step.do), ...part } } as unknown as Action };
}

/** Changes fields of a step's action. */
export function setPart(id: string, part: Record<string, unknown>): Change {
  return (drink) => ({
    ...drink,
    steps: drink.steps.map((step) => (step.id === id ? withPart(step, part) : step)),
  });
}

export function setAmount(id: string, amount: string): Change {
  return (drink) => {
    const step = drink.steps.find((s) => s.id === id);
    return setPart(id, step && "top_up" in step.do ? { to: amount } : { amount })(drink);
  };
}

/** How a step's amount grows with the drink. */
export function setLaw(id: string, law: Step["law"]): Change {
  return (drink) => ({
    ...drink,
    steps: drink.steps.map((step) => (step.id === id ? { ...step, law } : step)),
  });
}

export function setNote(id: string, note: string): Change {
  return (drink) => ({
    ...drink,
    steps: drink.steps.map((step) => (step.id === id ? { ...step, note } : step)),
  });
}

/** How long what a step leaves may stand, and which steps come before it. */
export function setTiming(id: string, timing: Pick<Step, "may_stand" | "after">): Change {
  return (drink) => ({
    ...drink,
    steps: drink.steps.map((step) => (step.id === id ? { ...step, ...timing } : step)),
  });
}

/** The drink without a step; what came only after it does so no longer. */
export function removeStep(id: string): Change {
  const without = (step: Step): Step =>
    step.after?.includes(id) ? { ...step, after: step.after.filter((s) => s !== id) } : step;
  return (drink) => ({
    ...drink,
    steps: drink.steps.filter((step) => step.id !== id).map(without),
  });
}

function bringsSomething(step: Step): boolean {
  return "add" in step.do || "squeeze" in step.do || "top_up" in step.do;
}

/** Moves a line past the neighbouring line, up (-1) or down (1). */
export function moveLine(id: string, by: -1 | 1): Change {
  return (drink) => {
    const from = drink.steps.findIndex((step) => step.id === id);
    let to = from + by;
    while (drink.steps[to] && !bringsSomething(drink.steps[to]!)) to += by;
    const moved = drink.steps[from];
    if (!moved || !drink.steps[to]) return drink;
    const steps = drink.steps.filter((step) => step.id !== id);
    steps.splice(to, 0, moved);
    return { ...drink, steps };
  };
}

/** Puts a copy of a step behind it. */
export function copyStep(id: string): Change {
  return (drink) => {
    const at = drink.steps.findIndex((step) => step.id === id);
    const step = drink.steps[at];
    if (!step) return drink;
    const copy = { ...structuredClone(step), id: newId(drink) };
    return { ...drink, steps: drink.steps.toSpliced(at + 1, 0, copy) };
  };
}

/** Moves a step to a position among the others. */
export function moveStepTo(id: string, to: number): Change {
  return (drink) => {
    const from = drink.steps.findIndex((step) => step.id === id);
    const moved = drink.steps[from];
    if (!moved || from === to || !drink.steps[to]) return drink;
    const steps = drink.steps.filter((step) => step.id !== id);
    steps.splice(to, 0, moved);
    return { ...drink, steps };
  };
}

/** Puts a step in at a position; the drink that makes, and the new step's id. */
export function insertStep(drink: Drink, at: number, action: Action): [Drink, string] {
  const step: Step = { id: newId(drink), do: action };
  const steps = [...drink.steps.slice(0, at), step, ...drink.steps.slice(at)];
  return [{ ...drink, steps }, step.id!];
}

let made = 0;

function newId(drink: Drink): string {
  let id: string;
  do id = `n${Date.now().toString(36)}${(made++).toString(36)}`;
  while (drink.steps.some((step) => step.id === id));
  return id;
}

/** What is put in, and how. */
export interface Adding {
  id: string;
  amount: string;
  can_be_squeezed: boolean;
  warmth?: Schemas["Warmth"];
  cut?: Schemas["Cut"];
}

/**
 * Puts an ingredient into a vessel where a cook would: after what goes into it already, before it is
 * heated, strained, topped up or poured on.
 */
export function addIngredient(it: Adding, vessel: string, at?: number): Change {
  return (drink) => {
    const part = { into: vessel, ingredient: it.id, amount: it.amount };
    const how = {
      ...(it.warmth && it.warmth !== "usual" ? { warmth: it.warmth } : {}),
      ...(it.cut && it.cut !== "usual" ? { cut: it.cut } : {}),
    };
    const action: Action = it.can_be_squeezed ? { squeeze: part } : { add: { ...part, ...how } };
    const lastInto = drink.steps.findLastIndex(
      (s) => ["add", "squeeze"].includes(nameOf(s.do)) && held(s.do).into === vessel,
    );
    const firstAfter = drink.steps.findIndex(
      (s) => pathOf(s.do).includes(vessel) && ["top_up", "cool", "serve"].includes(nameOf(s.do)),
    );
    const usual = lastInto >= 0 ? lastInto + 1 : firstAfter >= 0 ? firstAfter : drink.steps.length;
    // Parts are parts of something: a shot, until another is chosen.
    const sized = /\bparts?$/.test(it.amount) && !drink.part ? { ...drink, part: "30 ml" } : drink;
    return insertStep(sized, at ?? usual, action)[0];
  };
}

/** What a vessel holds, is made of, or is called. */
export function setVessel(id: string, part: Partial<Vessel>): Change {
  return (drink) => ({
    ...drink,
    vessels: drink.vessels.map((v) => (v.id === id ? { ...v, ...part } : v)),
  });
}

/** Serves a drink that isn't served yet, from the vessel that it ends in. */
export function serveFrom(vessel: string, glasses: number, size: string): Change {
  return (drink) => {
    const known = drink.vessels.find((v) => v.kind === "glass" && v.id !== vessel);
    let id = known?.id ?? "glass";
    while (!known && drink.vessels.some((v) => v.id === id)) id += "_2";
    const glass: Vessel = { id, kind: "glass" as VesselKind };
    const vessels = known ? drink.vessels : [...drink.vessels, glass];
    const serve: Action = { serve: { from: vessel, glass: id, glasses, size } };
    return insertStep({ ...drink, vessels }, drink.steps.length, serve)[0];
  };
}

/** The step that serves the drink. */
export function serving(drink: Drink) {
  for (const step of drink.steps) if ("serve" in step.do) return step.do.serve;
  return undefined;
}
