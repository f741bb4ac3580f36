import type { Drink, Step, StateReport, Vessel, VesselKind } from "../../api/client";

/** What there is to say of each action: its name, its fields, and how it begins. */

export type Action = Step["do"];
export type ActionName = Action extends infer A ? (A extends A ? keyof A : never) : never;

export type Field =
  | {
      key: string;
      label: string;
      kind: "vessel" | "pot" | "strainer" | "glass" | "ingredient" | "juice" | "pourable";
    }
  | { key: string; label: string; kind: "amount" }
  | { key: string; label: string; kind: "number"; unit: string; whole?: boolean }
  | { key: string; label: string; kind: "switch" }
  | { key: string; label: string; kind: "portion" }
  | { key: string; label: string; kind: "choice"; options: Record<string, string> };

const resting = { worktop: "on the worktop", refrigerator: "in the refrigerator" };
const cooling = {
  worktop: "on the worktop",
  water_bath: "in cold water",
  refrigerator: "in the refrigerator",
};
const pressing = { drained: "left to drain", pressed: "pressed with a spoon", wrung: "wrung out" };

export const actions: Record<ActionName, { name: string; fields: Field[] }> = {
  add: {
    name: "Put in",
    fields: [
      { key: "amount", label: "Amount", kind: "amount" },
      { key: "ingredient", label: "Of", kind: "ingredient" },
      { key: "into", label: "Into", kind: "vessel" },
    ],
  },
  squeeze: {
    name: "Squeeze",
    fields: [
      { key: "amount", label: "Fruit or juice", kind: "amount" },
      { key: "ingredient", label: "For", kind: "juice" },
      { key: "into", label: "Into", kind: "vessel" },
    ],
  },
  heat: {
    name: "Heat",
    fields: [
      { key: "vessel", label: "In", kind: "pot" },
      { key: "to_c", label: "To", kind: "number", unit: "°C" },
      { key: "minutes", label: "Keep it there", kind: "number", unit: "min" },
      { key: "lid", label: "With the lid on", kind: "switch" },
    ],
  },
  infuse: {
    name: "Let stand",
    fields: [
      { key: "vessel", label: "What is in", kind: "vessel" },
      { key: "minutes", label: "For", kind: "number", unit: "min" },
      { key: "place", label: "Where", kind: "choice", options: resting },
    ],
  },
  blend: {
    name: "Blend",
    fields: [
      { key: "vessel", label: "What is in", kind: "vessel" },
      { key: "seconds", label: "For", kind: "number", unit: "s" },
    ],
  },
  strain: {
    name: "Strain",
    fields: [
      { key: "from", label: "From", kind: "vessel" },
      { key: "through", label: "Through", kind: "strainer" },
      { key: "into", label: "Into", kind: "vessel" },
      { key: "press", label: "What stays is", kind: "choice", options: pressing },
    ],
  },
  pour: {
    name: "Pour",
    fields: [
      { key: "portion", label: "How much", kind: "portion" },
      { key: "from", label: "From", kind: "vessel" },
      { key: "into", label: "Into", kind: "vessel" },
    ],
  },
  top_up: {
    name: "Top up",
    fields: [
      { key: "vessel", label: "What is in", kind: "vessel" },
      { key: "ingredient", label: "With", kind: "pourable" },
      { key: "to", label: "To the line", kind: "amount" },
    ],
  },
  cool: {
    name: "Cool",
    fields: [
      { key: "vessel", label: "What is in", kind: "vessel" },
      { key: "to_c", label: "To", kind: "number", unit: "°C" },
      { key: "place", label: "Where", kind: "choice", options: cooling },
    ],
  },
  serve: {
    name: "Serve",
    fields: [
      { key: "glasses", label: "Glasses", kind: "number", unit: "", whole: true },
      { key: "size", label: "Each", kind: "amount" },
      { key: "from", label: "From", kind: "vessel" },
      { key: "glass", label: "In", kind: "glass" },
    ],
  },
};

export const strainerKinds: VesselKind[] = ["colander", "sieve", "fine_sieve", "cloth", "bag"];
export const vesselKinds: Record<VesselKind, string> = {
  pot: "Pot",
  bowl: "Bowl",
  jug: "Jug",
  blender: "Blender",
  pitcher: "Pitcher",
  bottle: "Bottle",
  glass: "Glass",
  colander: "Colander",
  sieve: "Sieve",
  fine_sieve: "Fine sieve",
  cloth: "Straining cloth",
  bag: "Straining bag",
};

export function nameOf(action: Action): ActionName {
  return Object.keys(action)[0] as ActionName;
}

export function held(action: Action): Record<string, unknown> {
  return Object.values(action)[0] as Record<string, unknown>;
}

/** The vessel in whose lane a step stands: where it ends. */
export function laneOf(action: Action): string {
  const part = held(action);
  return String(part.glass ?? part.into ?? part.vessel ?? "");
}

/** The vessels that a step leads through, in order. */
export function pathOf(action: Action): string[] {
  const part = held(action);
  return [part.from, part.through, part.into, part.vessel, part.glass].filter(
    (id): id is string => typeof id === "string",
  );
}

export function isStrainer(vessel: Vessel): boolean {
  return strainerKinds.includes(vessel.kind);
}

/** A vessel that isn't in the drink yet. */
export function newVessel(drink: Drink, kind: VesselKind): Vessel {
  let id: string = kind;
  for (let n = 2; drink.vessels.some((v) => v.id === id); n++) id = `${kind}_${n}`;
  const many = drink.vessels.filter((v) => v.kind === kind).length;
  return many === 0 ? { id, kind } : { id, kind, name: `${vesselKinds[kind]} ${many + 1}` };
}

interface Beginning {
  action: Action;
  vessels: Vessel[];
}

/**
 * How an action begins on a vessel, with the vessels that it needs and the drink hasn't got; nothing
 * where it makes no sense on what the vessel holds.
 */
export function begin(
  name: ActionName,
  drink: Drink,
  vessel: Vessel,
  state: StateReport | undefined,
): Beginning | undefined {
  const added: Vessel[] = [];
  const other = (wanted: (v: Vessel) => boolean, kind: VesselKind): string => {
    const found = drink.vessels.find((v) => v.id !== vessel.id && wanted(v));
    if (found) return found.id;
    const made = newVessel(drink, kind);
    added.push(made);
    return made.id;
  };
  const holds = (v: Vessel) => !isStrainer(v) && v.kind !== "glass";
  const after = (v: Vessel) => holds(v) && drink.vessels.indexOf(v) > drink.vessels.indexOf(vessel);
  const next = () => other(drink.vessels.some(after) ? after : holds, "pitcher");
  const liquid = (state?.liquid_ml ?? 0) > 1;
  const anything = (state?.mass_g ?? 0) > 0.5;
  const done = (action: Action): Beginning => ({ action, vessels: added });
  const id = vessel.id;
  switch (name) {
    case "heat":
      if (vessel.kind !== "pot" || !anything) return undefined;
      return done({ heat: { vessel: id, to_c: 95, minutes: 0, lid: true } });
    case "infuse":
      if (!liquid) return undefined;
      return done({ infuse: { vessel: id, minutes: 15, place: "worktop" } });
    case "blend":
      if (!anything || (state?.pieces.length ?? 0) + (state?.ice_g ?? 0) === 0) return undefined;
      return done({ blend: { vessel: id, seconds: 30 } });
    case "strain":
      if (!liquid) return undefined;
      return done({
        strain: {
          from: id,
          through: other(isStrainer, "fine_sieve"),
          into: next(),
          press: "drained",
        },
      });
    case "pour":
      if (!anything) return undefined;
      return done({ pour: { from: id, into: next(), portion: "all" } });
    case "top_up": {
      const line = Math.max(250, Math.ceil(((state?.level_ml ?? 0) * 1.25) / 250) * 250);
      return done({ top_up: { vessel: id, ingredient: "water", to: `${line} ml` } });
    }
    case "cool":
      if (!anything) return undefined;
      return done({ cool: { vessel: id, to_c: 7, place: "refrigerator" } });
    case "serve": {
      if (!liquid || drink.steps.some((step) => "serve" in step.do)) return undefined;
      const glasses = Math.max(1, Math.floor((state?.level_ml ?? 250) / 250));
      const glass = other((v) => v.kind === "glass", "glass");
      return done({ serve: { from: id, glass, glasses, size: "250 ml" } });
    }
    default:
      return undefined;
  }
}
