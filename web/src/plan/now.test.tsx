// @vitest-environment happy-dom
import { act, renderHook } from "@testing-library/react";
import { afterEach, beforeEach, expect, it, vi } from "vitest";
import { useNowOf } from "./Strip";

beforeEach(() => void vi.useFakeTimers());
afterEach(() => void vi.useRealTimers());

it("goes on while nothing is asked, and counts from each answer", () => {
  const { result, rerender } = renderHook(({ answer }) => useNowOf(answer), {
    initialProps: { answer: { now: -60 } },
  });
  expect(result.current).toBe(-60);
  act(() => void vi.advanceTimersByTime(120_000));
  expect(result.current).toBeCloseTo(-58, 1);
  rerender({ answer: { now: -57 } });
  act(() => void vi.advanceTimersByTime(60_000));
  expect(result.current).toBeCloseTo(-56, 1);
});
