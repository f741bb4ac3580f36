import type { Drink, DrinkReport } from "../../api/client";
import { trace } from "../../api/compute";
import { moveStepTo } from "../editing/changes";
import type { Editor } from "../editing/editor";

/**
 * Makes a change of the steps, unless something would then be done with an empty vessel. Says why not,
 * if not.
 */
export async function tryOrder(
  editor: Editor,
  drink: Drink,
  report: DrinkReport,
  change: (drink: Drink) => Drink,
): Promise<string | undefined> {
  const changed = change(drink);
  if (changed === drink) return undefined;
  try {
    const tried = await trace(changed);
    const empty = (r: DrinkReport) =>
      r.frames.flatMap((f) => f.notices).filter((n) => n.kind === "nothing_there");
    const before = empty(report).map((n) => n.message);
    const why = empty(tried).find((n) => !before.includes(n.message));
    if (why) return why.message;
  } catch (error) {
    return (error as Error).message;
  }
  editor.edit(change);
  return undefined;
}

/** Moves a step to another place. */
export function reorder(
  editor: Editor,
  drink: Drink,
  report: DrinkReport,
  step: string,
  to: number,
): Promise<string | undefined> {
  return tryOrder(editor, drink, report, moveStepTo(step, to));
}
