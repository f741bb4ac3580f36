import type { PlanAnswer, PlanFile, Schemas } from "../api/client";
import { civil, moved } from "./times";

/** Changes of a plan, as plain functions from one plan to the next. */

/** What there is to make the drinks with; as usual where nothing is said. */
export function meansOf(plan: PlanFile) {
  return { cooks: 1, rings: 4, refrigerator_l: 30, ...plan.means };
}

const CIVIL = /^\d{4}-\d\d-\d\dT\d\d:\d\d/;

/** The plan served at another time; drinks with a time of their own, and what is held, go with it. */
export function served(plan: PlanFile, serving: string): PlanFile {
  if (!CIVIL.test(serving)) return plan;
  const by = (instant(serving) - instant(plan.serving)) / 60_000;
  if (by === 0) return plan;
  return {
    ...plan,
    serving,
    drinks: (plan.drinks ?? []).map((d) =>
      d.serving ? { ...d, serving: moved(d.serving, by) } : d,
    ),
    holds: (plan.holds ?? []).map((h) => ({ ...h, at: moved(h.at, by) })),
  };
}

/**
 * The plan with when its tasks stood before it was changed: as they were worked out, and later or sooner with their
 * drink. So a serving that is moved by five minutes puts nothing into another order.
 */
export function asItStood(plan: PlanFile, answer: PlanAnswer | undefined): PlanFile {
  const before = answer?.plan;
  if (!before || before.under_way) return plan;
  const clock = { zero: Date.parse(answer.zero), zone: answer.zone };
  const by = new Map<string, number>();
  for (const drink of plan.drinks ?? []) {
    const was = answer.drinks.find((d) => d.id === drink.id);
    if (!was) continue;
    const [from, to] = [civil(clock, was.serve_at), drink.serving ?? plan.serving];
    by.set(drink.id, (instant(to) - instant(from)) / 60_000);
  }
  const stood = before.tasks.flatMap((task) => {
    const moves = by.get(task.id.split("/")[0]!);
    // Not a minute earlier for being told to the minute.
    const at = civil(clock, Math.ceil(task.hands_from - 1e-6));
    return moves === undefined || Number.isNaN(moves)
      ? []
      : [{ task: task.id, at: moved(at, moves) }];
  });
  return { ...plan, stood };
}

const instant = (civil: string) => new Date(`${civil.slice(0, 16)}:00Z`).getTime();

/** The plan with one more drink, under a letter that no other has. */
export function withDrink(plan: PlanFile, drink: string, name: string): PlanFile {
  const drinks = plan.drinks ?? [];
  const letters = Array.from({ length: 26 }, (_, i) => String.fromCharCode(97 + i));
  const id = letters.find((letter) => drinks.every((d) => d.id !== letter)) ?? `x${drinks.length}`;
  return { ...plan, drinks: [...drinks, { id, drink, name }] };
}

/** The plan without one of its drinks, and without what was said of its tasks. */
export function withoutDrink(plan: PlanFile, id: string): PlanFile {
  const mine = (task: string) => task.startsWith(`${id}/`);
  return {
    ...plan,
    drinks: (plan.drinks ?? []).filter((d) => d.id !== id),
    holds: (plan.holds ?? []).filter((h) => !mine(h.task)),
    after: (plan.after ?? []).filter((a) => !mine(a.task) && !mine(a.after)),
    ahead: (plan.ahead ?? []).filter((part) => !mine(part)),
  };
}

/** The plan with a change that helps. */
export function helped(plan: PlanFile, change: Schemas["PlanChange"]): PlanFile {
  const means = meansOf(plan);
  if (change === "cook") return { ...plan, means: { ...means, cooks: means.cooks + 1 } };
  if (change === "ring") return { ...plan, means: { ...means, rings: means.rings + 1 } };
  // A pot that has to be borrowed changes nothing here.
  if ("vessel" in change) return plan;
  if ("ahead" in change) return { ...plan, ahead: [...(plan.ahead ?? []), change.ahead] };
  const [entry, , step] = change.water_bath.split("/");
  return {
    ...plan,
    drinks: (plan.drinks ?? []).map((d) =>
      d.id === entry ? { ...d, water_bath: [...(d.water_bath ?? []), step!] } : d,
    ),
  };
}
