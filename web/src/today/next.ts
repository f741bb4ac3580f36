import type { GoingBatch, PlanAnswer } from "../api/client";
import { left, momentOf, until } from "../make/clock";
import { momentNow } from "../make/hooks";
import { hour } from "../plan/times";

/** Something that is next, in a batch or a plan. */
export interface NextThing {
  key: string;
  /** Where it is done. */
  to: string;
  /** When, in words: "now", "11:08", "Saturday 9:10". */
  when: string;
  /** In so many minutes from now, as one waits; 0 for what can be done at once. */
  minutes: number;
  /** Whose: the drink, or the plan and its drink. */
  of: string;
  /** What is done or waited for. */
  what: string;
  colour: string | undefined;
}

const plain = (sentence: string) => sentence.replace(/\.$/, "");

/** What a batch needs: the next step at once, and each wait at its end. */
function ofBatch(batch: GoingBatch, heardAt: number, now: number): NextThing[] {
  const at = momentNow(batch, heardAt, now);
  const base = {
    to: `/make/${batch.id}`,
    of: batch.practice ? `${batch.name}, practice` : batch.name,
    colour: batch.colour ?? undefined,
  };
  const atOnce = { ...base, when: "now", minutes: 0 };
  const things: NextThing[] = batch.waits.map((wait) => {
    const key = `${batch.id} ${wait.step}`;
    const end = momentOf(batch.begun_at, wait.until);
    const what = plain(wait.sentence);
    if (end <= at) return { ...atOnce, key, what: `Time is up: ${what}` };
    return {
      ...base,
      key,
      when: until(end, at),
      minutes: (end - at) / 60_000 / batch.rate,
      what: `${left(end, at)} left: ${what}`,
    };
  });
  if (batch.next) things.push({ ...atOnce, key: batch.id, what: plain(batch.next) });
  else if (things.length === 0) things.push({ ...atOnce, key: batch.id, what: "Finish the batch" });
  return things;
}

/** The first thing to do by hand in a plan, of the drinks that nobody has started yet. */
function ofPlan(id: string, name: string, answer: PlanAnswer, started: Set<string>): NextThing[] {
  const { plan, now } = answer;
  const nameOf = (position: number) => answer.drinks.find((d) => d.position === position)?.name;
  const block = plan?.blocks.find((b) => !b.done && !started.has(nameOf(b.drink) ?? ""));
  if (!block) return [];
  const clock = { zero: Date.parse(answer.zero), zone: answer.zone };
  const late = block.from <= now;
  const moment = clock.zero + block.from * 60_000;
  return [
    {
      key: `${id} ${block.from}`,
      to: `/plan/${id}`,
      when: late ? "now" : until(moment, clock.zero + now * 60_000),
      minutes: Math.max(block.from - now, 0),
      of: `${name}: ${nameOf(block.drink) ?? ""}`,
      what: late ? `${block.label}, planned for ${hour(clock, block.from)}` : block.label,
      colour: answer.drinks.find((d) => d.position === block.drink)?.colour ?? undefined,
    },
  ];
}

/** A plan that is coming, worked out. */
export interface Coming {
  id: string;
  name: string;
  answer: PlanAnswer;
}

/** All that is next, by the clock, over all batches and plans. */
export function nextThings(
  batches: GoingBatch[],
  plans: Coming[],
  heardAt: number,
  now: number,
): NextThing[] {
  const things = [
    ...batches.flatMap((batch) => ofBatch(batch, heardAt, now)),
    ...plans.flatMap(({ id, name, answer }) => {
      const made = batches.filter((batch) => batch.plan?.id === id).map((batch) => batch.name);
      return ofPlan(id, name, answer, new Set(made));
    }),
  ];
  return things.sort((a, b) => a.minutes - b.minutes);
}
