// @vitest-environment happy-dom
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { act, cleanup, render, screen } from "@testing-library/react";
import { MemoryRouter, Route, Routes } from "react-router";
import { afterEach, beforeEach, expect, it, vi } from "vitest";
import type { BatchView } from "../api/client";
import MakePage from "./MakePage";

const drawn = vi.hoisted(() => {
  const counts = { map: 0, vessels: 0 };
  const answers: Record<string, unknown> = {};
  globalThis.fetch = (request) => {
    const { pathname } = new URL((request as Request).url);
    const body = JSON.stringify(answers[pathname] ?? {});
    return Promise.resolve(new Response(body, { headers: { "content-type": "application/json" } }));
  };
  return { counts, answers };
});
vi.mock("../api/changes", async (all) => ({
  ...(await all<typeof import("../api/changes")>()),
  useChanges: () => undefined,
}));
vi.mock("../drink/balance/MapPlate", () => ({
  MapPlate: () => {
    drawn.counts.map++;
    return null;
  },
}));
vi.mock("./StepVessels", () => ({
  StepVessels: () => {
    drawn.counts.vessels++;
    return null;
  },
}));

const start = Date.parse("2030-06-22T09:00:00Z");

/** A batch with a wait of two minutes that has just started, and nothing else to do. */
const waiting = {
  id: "b1",
  drink: "d1",
  name: "Lemonade",
  begun_at: new Date(start).toISOString(),
  now: 0,
  rate: 1,
  practice: false,
  said: [],
  taken_back: [],
  stands: {
    drink: { family: "lemonade", steps: [{ id: "steep", do: { infuse: { vessel: "jug" } } }] },
    next: null,
    steps: [{ id: "steep", state: "running", since: 0, until: 2, waits: 2 }],
    report: {
      frames: [{ step: "steep", sentence: "Leave to steep.", cautions: [], notices: [] }],
      lines: [],
      map: {},
    },
    readings: [],
    ready_at: 2,
    doubt: { sweetness: 0, acidity: 0 },
  },
} as unknown as BatchView;

beforeEach(() => {
  vi.useFakeTimers({ now: start, shouldAdvanceTime: false });
  drawn.answers["/api/batches/b1"] = waiting;
  drawn.answers["/api/going"] = { batches: [] };
  drawn.answers["/api/tasters"] = { tasters: [] };
  drawn.answers["/api/instruments"] = { instruments: [] };
});
afterEach(() => {
  cleanup();
  vi.useRealTimers();
});

it("while a wait runs down, only what counts is drawn again", async () => {
  const client = new QueryClient({ defaultOptions: { queries: { retry: false } } });
  render(
    <QueryClientProvider client={client}>
      <MemoryRouter initialEntries={["/make/b1"]}>
        <Routes>
          <Route path="/make/:id" element={<MakePage />} />
        </Routes>
      </MemoryRouter>
    </QueryClientProvider>,
  );
  await act(() => vi.advanceTimersByTimeAsync(3000));
  expect(screen.getByRole("timer").textContent).toContain("1:57");
  const before = { ...drawn.counts };
  expect(before.map).toBeGreaterThan(0);
  await act(() => vi.advanceTimersByTimeAsync(20_000));
  expect(screen.getByRole("timer").textContent).toContain("1:37");
  expect(drawn.counts).toEqual(before);

  await act(() => vi.advanceTimersByTimeAsync(100_000));
  expect(screen.getByRole("alert").textContent).toContain("leave to steep");
  expect(document.title).toBe("(1) Lemonade");
});
