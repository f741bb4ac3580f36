import { useQuestion } from "../../api/ask";
import { answer, api, type Drink } from "../../api/client";
import { useTasters } from "./useDrinkers";
import { keys } from "../../api/keys";

/** What somebody does with a glass of a drink. */
export interface ForOne {
  id: string;
  name: string;
  /** In words: "1 tsp lemon juice into the glass", "as it is", "doesn't take honey". */
  does: string;
  /** Whether there is anything to do, or to mind. */
  differs: boolean;
}

/**
 * What each of those who taste stirs into a glass of a drink, by their own ideal, or doesn't take of it:
 * of those who are invited, or of everybody.
 */
export function useForWhom(drink: Drink | undefined, invited: string[] = []): ForOne[] {
  const { data: tasters } = useTasters();
  const known = tasters?.map((view) => view.id) ?? [];
  // Who was deleted is invited no more.
  const here = known.filter((id) => invited.includes(id));
  const ids = here.length > 0 ? here : known;
  const { data } = useQuestion(
    keys.forWhom(drink, ids),
    (signal) =>
      answer(api.POST("/api/compute/for-whom", { body: { drink: drink!, tasters: ids }, signal })),
    drink !== undefined && ids.length > 0,
  );
  if (!data || !drink) return [];
  return data.guests.flatMap((guest, i): ForOne[] => {
    const without = [...new Set(data.without[i]?.map((o) => o.name.toLowerCase()))];
    const adds = data.glasses[i]?.stirs_in;
    const one = { id: guest.id, name: guest.name };
    if (without.length > 0)
      return [{ ...one, does: `doesn’t take ${without.join(" and ")}`, differs: true }];
    // Of who hasn't tasted anything of that kind nothing is known.
    if (guest.glasses === 0) return [];
    return adds
      ? [
          {
            ...one,
            does: `${adds.amount} ${adds.name.toLowerCase()} into the glass`,
            differs: true,
          },
        ]
      : [{ ...one, does: "as it is", differs: false }];
  });
}
