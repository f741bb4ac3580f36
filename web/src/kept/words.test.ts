import { expect, it } from "vitest";
import type { KeptBottle } from "../api/client";
import { left } from "./words";

const now = new Date(2030, 5, 10, 18, 0);
const until = (days: number, hour: number, over = false) =>
  left(
    { use_by: new Date(2030, 5, 10 + days, hour).toISOString(), state: { over } } as KeptBottle,
    now,
  );

it("tells days as one says them, by the calendar", () => {
  expect([
    until(-2, 12, true),
    until(-1, 12, true),
    until(0, 12, true),
    until(0, 23),
    until(1, 4),
    until(6, 9),
    until(89, 9),
  ]).toEqual([
    "2 days over",
    "a day over",
    "over today",
    "today or tonight",
    "1 day left",
    "6 days",
    "3 months",
  ]);
});
