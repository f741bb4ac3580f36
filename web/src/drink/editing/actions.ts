import type { Step, Vessel, VesselKind } from "../../api/client";

/** What there is to say of each action: its name, its fields, and how it begins. */

export type Action = Step["do"];
export type ActionName = Action extends infer A ? (A extends A ? keyof A : never) : never;

export type Field =
  | {
      key: string;
      label: string;
      kind:
        | "vessel"
        | "any_vessel"
        | "maybe_vessel"
        | "maybe_strainer"
        | "pot"
        | "strainer"
        | "glass"
        | "bottle"
        | "ingredient"
        | "juice"
        | "pourable";
    }
  | { key: string; label: string; kind: "amount" | "maybe_amount" }
  | { key: string; label: string; kind: "number"; unit: string; whole?: boolean; maybe?: boolean }
  | { key: string; label: string; kind: "switch" }
  | { key: string; label: string; kind: "portion" }
  | { key: string; label: string; kind: "reduction" }
  | { key: string; label: string; kind: "choice"; options: Record<string, string> };

const resting = { worktop: "on the worktop", refrigerator: "in the refrigerator" };
const cooling = {
  worktop: "on the worktop",
  water_bath: "in cold water",
  refrigerator: "in the refrigerator",
  freezer: "in the freezer",
};
const vigour = { gentle: "a bare simmer", simmer: "a lively simmer", boil: "a rolling boil" };
const pressing = { drained: "drain only", pressed: "press with a spoon", wrung: "wrung out" };

const warmth: Field = {
  key: "warmth",
  label: "Temperature",
  kind: "choice",
  options: {
    usual: "usual",
    boiling: "boiling, from the kettle",
    hot: "hot",
    tap: "cold from the tap",
    chilled: "chilled",
    frozen: "frozen",
  },
};
const cut: Field = {
  key: "cut",
  label: "Cut",
  kind: "choice",
  options: {
    usual: "usual",
    whole: "whole",
    sliced: "sliced",
    chopped: "chopped",
    grated: "grated",
    bruised: "bruised",
  },
};

export const actions: Record<ActionName, { name: string; fields: Field[] }> = {
  add: {
    name: "Add",
    fields: [
      { key: "amount", label: "Amount", kind: "amount" },
      { key: "ingredient", label: "Ingredient", kind: "ingredient" },
      { key: "into", label: "Into", kind: "any_vessel" },
      warmth,
      cut,
      {
        key: "portions",
        label: "In portions, tasting each time",
        kind: "number",
        unit: "",
        whole: true,
      },
    ],
  },
  prepare: {
    name: "Prepare",
    fields: [
      { key: "ingredient", label: "What", kind: "ingredient" },
      {
        key: "how",
        label: "How",
        kind: "choice",
        options: {
          wash: "wash",
          soak: "soak",
          inspect: "look over",
          peel: "peel",
          chop: "cut up",
          crush: "crush",
        },
      },
      { key: "minutes", label: "For", kind: "number", unit: "min", maybe: true },
    ],
  },
  macerate: {
    name: "Under sugar",
    fields: [
      { key: "vessel", label: "What is in", kind: "vessel" },
      {
        key: "how",
        label: "How",
        kind: "choice",
        options: { left: "mixed and left", rubbed: "rubbed in by hand" },
      },
      { key: "minutes", label: "For", kind: "number", unit: "min" },
      { key: "place", label: "Where", kind: "choice", options: resting },
    ],
  },
  dissolve: {
    name: "Dissolve",
    fields: [
      { key: "vessel", label: "What is in", kind: "vessel" },
      {
        key: "how",
        label: "How",
        kind: "choice",
        options: { stirred: "stirred as it is", microwave: "in the microwave" },
      },
    ],
  },
  stir: {
    name: "Stir",
    fields: [
      { key: "vessel", label: "What is in", kind: "any_vessel" },
      {
        key: "until",
        label: "Until",
        kind: "choice",
        options: {
          mixed: "mixed",
          clear: "clear",
          calm: "it stops fizzing",
        },
      },
    ],
  },
  mark: {
    name: "Mark the line",
    fields: [{ key: "vessel", label: "On", kind: "pot" }],
  },
  boil: {
    name: "Simmer or boil",
    fields: [
      { key: "vessel", label: "In", kind: "pot" },
      { key: "minutes", label: "For", kind: "number", unit: "min" },
      { key: "how", label: "How hard", kind: "choice", options: vigour },
      { key: "lid", label: "With the lid on", kind: "switch" },
    ],
  },
  reduce: {
    name: "Boil down",
    fields: [
      { key: "vessel", label: "In", kind: "pot" },
      { key: "to", label: "Until", kind: "reduction" },
      { key: "how", label: "How hard", kind: "choice", options: vigour },
    ],
  },
  lift: {
    name: "Lift out",
    fields: [
      { key: "ingredient", label: "What", kind: "ingredient" },
      { key: "from", label: "From", kind: "vessel" },
      { key: "into", label: "Into", kind: "vessel" },
    ],
  },
  rinse: {
    name: "Rinse",
    fields: [
      { key: "amount", label: "Amount", kind: "amount" },
      { key: "ingredient", label: "With", kind: "pourable" },
      warmth,
      { key: "vessel", label: "Through the pulp in", kind: "any_vessel" },
      { key: "through", label: "Strain through", kind: "maybe_strainer" },
      { key: "into", label: "Into", kind: "vessel" },
      { key: "press", label: "Solids", kind: "choice", options: pressing },
    ],
  },
  cover: {
    name: "Cover with liquid",
    fields: [
      { key: "vessel", label: "What is in", kind: "vessel" },
      { key: "ingredient", label: "With", kind: "pourable" },
      warmth,
      { key: "above_mm", label: "Cover by", kind: "number", unit: "mm" },
    ],
  },
  lengthen: {
    name: "Dilute",
    fields: [
      { key: "vessel", label: "What is in", kind: "any_vessel" },
      { key: "ingredient", label: "With", kind: "pourable" },
      warmth,
      { key: "parts", label: "Parts to 1 part", kind: "number", unit: "" },
    ],
  },
  bottle: {
    name: "Bottle",
    fields: [
      { key: "from", label: "From", kind: "vessel" },
      { key: "bottle", label: "Into", kind: "bottle" },
      { key: "headspace", label: "Headspace in each", kind: "amount" },
    ],
  },
  dress: {
    name: "Garnish or rim",
    fields: [
      { key: "ingredient", label: "With", kind: "ingredient" },
      {
        key: "how",
        label: "How",
        kind: "choice",
        options: { garnish: "as a garnish", rim: "on the rim" },
      },
      { key: "glass", label: "On", kind: "glass" },
      { key: "amount", label: "On each (optional)", kind: "maybe_amount" },
    ],
  },
  squeeze: {
    name: "Squeeze",
    fields: [
      { key: "amount", label: "Fruit or juice", kind: "amount" },
      { key: "ingredient", label: "For", kind: "juice" },
      { key: "into", label: "Into", kind: "vessel" },
      { key: "halves_into", label: "Keep the halves in", kind: "maybe_vessel" },
    ],
  },
  heat: {
    name: "Heat",
    fields: [
      { key: "vessel", label: "In", kind: "pot" },
      { key: "to_c", label: "To", kind: "number", unit: "°C" },
      { key: "until_clear", label: "Stop when clear", kind: "switch" },
      { key: "minutes", label: "Hold for", kind: "number", unit: "min" },
      { key: "lid", label: "With the lid on", kind: "switch" },
    ],
  },
  infuse: {
    name: "Leave to steep",
    fields: [
      { key: "vessel", label: "What is in", kind: "vessel" },
      { key: "minutes", label: "For", kind: "number", unit: "min" },
      { key: "place", label: "Where", kind: "choice", options: resting },
      { key: "covered", label: "Covered", kind: "switch" },
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
      { key: "press", label: "Solids", kind: "choice", options: pressing },
    ],
  },
  pour: {
    name: "Pour",
    fields: [
      { key: "portion", label: "How much", kind: "portion" },
      { key: "from", label: "From", kind: "any_vessel" },
      { key: "into", label: "Into", kind: "vessel" },
    ],
  },
  top_up: {
    name: "Top up",
    fields: [
      { key: "vessel", label: "What is in", kind: "any_vessel" },
      { key: "ingredient", label: "With", kind: "pourable" },
      warmth,
      { key: "to", label: "Fill to", kind: "amount" },
    ],
  },
  cool: {
    name: "Cool",
    fields: [
      { key: "vessel", label: "What is in", kind: "vessel" },
      { key: "to_c", label: "To", kind: "number", unit: "°C" },
      { key: "place", label: "Where", kind: "choice", options: cooling },
      { key: "covered", label: "Covered", kind: "switch" },
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
  return pathOf(action).at(-1) ?? "";
}

/** The vessels that a step leads through, in order. */
export function pathOf(action: Action): string[] {
  const part = held(action);
  return [
    part.from,
    part.vessel,
    part.through,
    part.halves_into,
    part.into,
    part.bottle,
    part.glass,
  ].filter((id): id is string => typeof id === "string");
}

export function isStrainer(vessel: Vessel): boolean {
  return strainerKinds.includes(vessel.kind);
}
