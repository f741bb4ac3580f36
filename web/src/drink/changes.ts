import type { Drink, Ingredient, Step, Vessel, VesselKind } from "../api/client";

/** Changes of a recipe, as plain functions from one drink to the next. */

type Change = (drink: Drink) => Drink;
type Action = Step["do"];

/** The one name in an action ("add", "pour") and what it holds. */
function parts(action: Action): [string, Record<string, unknown>] {
  return Object.entries(action)[0] as [string, Record<string, unknown>];
}

function withPart(step: Step, part: Record<string, unknown>): Step {
  const [name, held] = parts(step.do);
  return { ...step, do: { [name]: { ...held, ...part } } as unknown as Action };
}

/** The vessels that a step works on. */
export function vesselsOf(step: Step): string[] {
  const [, held] = parts(step.do);
  return ["vessel", "from", "through", "into", "glass"]
    .map((key) => held[key])
    .filter((id): id is string => typeof id === "string");
}

export function setAmount(id: string, amount: string): Change {
  return (drink) => ({
    ...drink,
    steps: drink.steps.map((step) => {
      if (step.id !== id) return step;
      return withPart(step, "top_up" in step.do ? { to: amount } : { amount });
    }),
  });
}

export function setNote(id: string, note: string): Change {
  return (drink) => ({
    ...drink,
    steps: drink.steps.map((step) => (step.id === id ? { ...step, note } : step)),
  });
}

export function removeStep(id: string): Change {
  return (drink) => ({ ...drink, steps: drink.steps.filter((step) => step.id !== id) });
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

let made = 0;

function newId(drink: Drink): string {
  let id: string;
  do id = `n${Date.now().toString(36)}${(made++).toString(36)}`;
  while (drink.steps.some((step) => step.id === id));
  return id;
}

/**
 * Puts an ingredient into a vessel where a cook would: after what goes into it already, before it is
 * heated, strained, topped up or poured on.
 */
export function addIngredient(it: Ingredient, vessel: string): Change {
  return (drink) => {
    const held = { into: vessel, ingredient: it.id, amount: it.usual_amount };
    const action: Action = it.can_be_squeezed ? { squeeze: held } : { add: held };
    const step: Step = { id: newId(drink), do: action };
    const into = (s: Step) => {
      const [name, part] = parts(s.do);
      return (name === "add" || name === "squeeze") && part.into === vessel;
    };
    const lastInto = drink.steps.findLastIndex(into);
    const firstAfter = drink.steps.findIndex((s) => {
      const [name] = parts(s.do);
      return vesselsOf(s).includes(vessel) && ["top_up", "cool", "serve"].includes(name);
    });
    const at = lastInto >= 0 ? lastInto + 1 : firstAfter >= 0 ? firstAfter : drink.steps.length;
    return { ...drink, steps: [...drink.steps.slice(0, at), step, ...drink.steps.slice(at)] };
  };
}

/** A vessel's capacity; its diameter is then that of a usual one. */
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
    const step: Step = {
      id: newId(drink),
      do: { serve: { from: vessel, glass: id, glasses, size } },
    };
    return {
      ...drink,
      vessels: known ? drink.vessels : [...drink.vessels, glass],
      steps: [...drink.steps, step],
    };
  };
}

/** The step that serves the drink. */
export function serving(drink: Drink) {
  for (const step of drink.steps) if ("serve" in step.do) return step.do.serve;
  return undefined;
}
