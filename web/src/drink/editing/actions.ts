import type { Step, Vessel, VesselKind } from "../../api/client";

/** What can be read off a step without asking: what it does, and which vessels it leads through. */

export type Action = Step["do"];
export type ActionName = Action extends infer A ? (A extends A ? keyof A : never) : never;

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
