// @vitest-environment happy-dom
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { cleanup, fireEvent, render, screen, waitFor, within } from "@testing-library/react";
import { MemoryRouter, Route, Routes } from "react-router";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import type { KeptBottle } from "../api/client";
import { Today } from "../today/Today";
import { Bottles } from "./Bottles";
import Kept from "./Kept";

// The client takes the browser's fetch when it is made, which is before any test runs.
const server = vi.hoisted(() => {
  const closed: (request: Request) => Promise<Response> = () => Promise.reject(new Error("closed"));
  const stub = { answer: closed };
  globalThis.fetch = (request) => stub.answer(request as Request);
  return stub;
});

const json = (body: unknown) =>
  new Response(JSON.stringify(body), { headers: { "content-type": "application/json" } });

const bottle = (id: string, name: string, more: object, state: object = {}) =>
  ({
    id,
    name,
    batch: null,
    drink: null,
    put_at: "2030-06-10T09:00:00Z",
    vessel: "bottle",
    colour: "#aa8800",
    holds_ml: 750,
    brix: 36,
    alcohol: 0,
    thinned: null,
    ingredient: `kept_${id}`,
    use_by: "2030-06-12T09:00:00Z",
    due: "use within 6 days",
    moves: [],
    undone: [],
    ...more,
    state: {
      place: "refrigerator",
      ml: 420,
      fill: 0.6,
      opened: null,
      days_left: 6,
      days_in_the_cold: 6,
      use_by: 6,
      over: false,
      soon: false,
      gone: false,
      why: ["Contains raw juice."],
      ...state,
    },
  }) as unknown as KeptBottle;

const fine = bottle("a", "Ginger syrup", {});
const soon = bottle("b", "Melon water", { due: "use today" }, { soon: true });
const over = bottle("c", "Mint water", { due: "4 days past its date" }, { over: true });

let told: { path: string; body: unknown }[] = [];
let kept: KeptBottle[] = [];

beforeEach(() => {
  told = [];
  kept = [soon, fine, over];
  server.answer = async (request) => {
    const path = new URL(request.url, "http://kitchen").pathname;
    if (request.method !== "GET") {
      told.push({ path, body: await request.json() });
      return json(kept[0]);
    }
    if (path === "/api/kept") return json({ bottles: kept, learned: ["It kept 3 days here."] });
    const one = kept.find((it) => path === `/api/kept/${it.id}`);
    if (one) return json({ ...one, uses: [] });
    if (path === "/api/drinks") return json({ total: 1, drinks: [], damaged: [] });
    if (path === "/api/plans") return json({ total: 0, plans: [], damaged: [] });
    return json([]);
  };
});
afterEach(cleanup);

function show(at: string) {
  const client = new QueryClient({ defaultOptions: { queries: { retry: false } } });
  return render(
    <QueryClientProvider client={client}>
      <MemoryRouter initialEntries={[at]}>
        <Routes>
          <Route path="/" element={<Today />} />
          <Route path="/kept/:id?" element={<Kept />} />
        </Routes>
      </MemoryRouter>
    </QueryClientProvider>,
  );
}

describe("what is past its date", () => {
  it("is apart from what is to be used soon, on the start page", async () => {
    show("/");
    const use = await screen.findByRole("region", { name: "Use soon" });
    const discard = screen.getByRole("region", { name: "Past its date: discard" });
    expect(within(use).getByText("Melon water")).toBeTruthy();
    expect(within(use).queryByText("Mint water")).toBeNull();
    expect(within(discard).getByText("4 days past its date")).toBeTruthy();
    expect(within(discard).queryByText("Melon water")).toBeNull();
    // What keeps for long is on neither.
    expect(screen.queryByText("Ginger syrup")).toBeNull();
    expect(screen.getByText("It kept 3 days here.")).toBeTruthy();
  });

  it("isn't mentioned where there is none", async () => {
    kept = [fine];
    show("/");
    await screen.findByText("It kept 3 days here.");
    expect(screen.queryByRole("region", { name: "Use soon" })).toBeNull();
    expect(screen.queryByRole("region", { name: "Past its date: discard" })).toBeNull();
  });

  it("has a shelf of its own among what is kept, and the others are where they are", async () => {
    kept = [soon, over, bottle("d", "Frozen lemonade", {}, { place: "freezer" })];
    show("/kept");
    const shelf = (name: string) => screen.findByRole("region", { name });
    expect(within(await shelf("Refrigerator")).getByText("Melon water")).toBeTruthy();
    expect(within(await shelf("Freezer")).getByText("Frozen lemonade")).toBeTruthy();
    expect(within(await shelf("Past its date: discard")).getByText("Mint water")).toBeTruthy();
    expect(screen.queryByRole("region", { name: "Cupboard" })).toBeNull();
  });

  it("says so when it is opened, with the reasons", async () => {
    kept = [{ ...over, state: { ...over.state, why: ["Discard it: it is past its date."] } }];
    show("/kept/c");
    const open = await screen.findByRole("region", { name: "Mint water" });
    expect(within(open).getByText("4 days past its date")).toBeTruthy();
    expect(within(open).getByText("Discard it: it is past its date.")).toBeTruthy();
    // Nobody is told a date to use it by.
    expect(within(open).queryByText(/12 June/)).toBeNull();
  });
});

describe("an open bottle", () => {
  it("is poured from, with what for, and each press is told once", async () => {
    show("/kept/b");
    const open = await screen.findByRole("region", { name: "Melon water" });
    fireEvent.click(within(open).getByRole("button", { name: "Opened" }));
    await waitFor(() =>
      expect(told).toEqual([{ path: "/api/kept/b/moves", body: { what: "opened" } }]),
    );
    fireEvent.click(within(open).getByRole("button", { name: "To the freezer" }));
    await waitFor(() => expect(told.length).toBe(2));
    expect(told[1]!.body).toEqual({ what: { moved: { to: "freezer" } } });
  });

  it("undoes the last entry that still counts, and nothing that was undone", async () => {
    const moves = [
      { at: 0.5, what: { poured: { ml: 100, what_for: "" } } },
      { at: 0.6, what: "opened" },
      { at: 0.7, what: { taken_back: { of: 1 } } },
    ];
    kept = [bottle("b", "Melon water", { moves, undone: [1] })];
    show("/kept/b");
    const undo = await screen.findByRole("button", { name: /^Undo: poured 100/ });
    fireEvent.click(undo);
    await waitFor(() => expect(told[0]?.body).toEqual({ what: { taken_back: { of: 0 } } }));
    expect(screen.queryByRole("button", { name: "Undo: opened" })).toBeNull();
  });

  it("has nothing to undo where all was undone", async () => {
    const moves = [
      { at: 0.6, what: "opened" },
      { at: 0.7, what: { taken_back: { of: 0 } } },
    ];
    kept = [bottle("b", "Melon water", { moves, undone: [0] })];
    show("/kept/b");
    await screen.findByRole("region", { name: "Melon water" });
    expect(screen.queryByRole("button", { name: /^Undo/ })).toBeNull();
  });

  it("asks why it was discarded before it is gone", async () => {
    show("/kept/b");
    const open = await screen.findByRole("region", { name: "Melon water" });
    fireEvent.click(within(open).getByRole("button", { name: "Discarded" }));
    expect(told).toEqual([]);
    fireEvent.click(within(open).getByRole("button", { name: "It spoiled" }));
    await waitFor(() => expect(told[0]?.body).toEqual({ what: { tipped: { why: "went_off" } } }));
  });
});

describe("bottles on a shelf", () => {
  it("tell when they are due in the words of the server, what is in them and whether they are open", () => {
    const open = bottle("e", "Open syrup", { due: "use by tomorrow" }, { opened: 1, soon: true });
    render(
      <MemoryRouter>
        <Bottles bottles={[fine, open]} height={80} chosen="e" to={(it) => `/kept/${it.id}`} />
      </MemoryRouter>,
    );
    const [one, other] = screen.getAllByRole("listitem");
    expect(within(one!).getByText("use within 6 days")).toBeTruthy();
    expect(within(other!).getByText("use by tomorrow")).toBeTruthy();
    expect(within(other!).getByText(/opened/)).toBeTruthy();
    expect(within(one!).queryByText(/opened/)).toBeNull();
    expect(within(other!).getByRole("link").getAttribute("aria-current")).toBe("true");
  });
});
