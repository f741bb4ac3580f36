import { answer, api, type Drink, type DrinkReport } from "../../api/client";
import { moveStepTo } from "../changes";
import type { Editor } from "../editing/editor";

/**
 * Moves a step to another place, unless something would then be done with an empty vessel. Says why
 * not, if not.
 */
export async function reorder(
  editor: Editor,
  drink: Drink,
  report: DrinkReport,
  step: string,
  to: number,
): Promise<string | undefined> {
  const change = moveStepTo(step, to);
  const moved = change(drink);
  if (moved === drink) return undefined;
  const tried = await answer(api.POST("/api/compute/trace", { body: moved })).catch(
    () => undefined,
  );
  const empty = (r: DrinkReport) =>
    r.frames.flatMap((f) => f.notices).filter((n) => n.kind === "nothing_there");
  const before = empty(report).map((n) => n.message);
  const why = tried && empty(tried).find((n) => !before.includes(n.message));
  if (!tried || why) return why?.message ?? "That order can't be made.";
  editor.edit(change);
  return undefined;
}
