import { expect, test } from "vitest";
import type { Plan } from "../api/client";
import { movedTasks } from "./Helps";

const task = (id: string, hands_from: number) =>
  ({ id, label: id, drink: 0, hands_from }) as Plan["tasks"][number];

test("the tasks that a change moves are told, the most moved first; a new or a gone one isn't moved", () => {
  const now = [task("a", -100), task("b", -50), task("c", -20), task("gone", -10)];
  const then = [task("a", -90), task("b", -50.4), task("c", -60), task("new", -5)];
  expect(movedTasks(now, then).map(({ id, from, to }) => [id, from, to])).toEqual([
    ["c", -20, -60],
    ["a", -100, -90],
  ]);
});
