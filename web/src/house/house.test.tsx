// @vitest-environment happy-dom
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { cleanup, fireEvent, render, screen, waitFor, within } from "@testing-library/react";
import { afterEach, beforeEach, expect, it, vi } from "vitest";
import type { Backup } from "../api/client";
import { ShelfTroubles } from "./ShelfTroubles";
import House from "./House";

const server = vi.hoisted(() => {
  const closed: (request: Request) => Promise<Response> = () => Promise.reject(new Error("closed"));
  const stub = { answer: closed };
  globalThis.fetch = (request) => stub.answer(request as Request);
  return stub;
});

const json = (body: unknown, status = 200) =>
  new Response(JSON.stringify(body), { status, headers: { "content-type": "application/json" } });

const backup = (name: string, kind: Backup["kind"], made_at: string | null): Backup =>
  ({ name, kind, made_at, bytes: 120_000 }) as Backup;

let told: string[] = [];
let kept: Backup[] = [];
let damaged = false;

beforeEach(() => {
  told = [];
  damaged = false;
  kept = [
    backup("keen-pitcher-2030-06-21-101500.zip", "manual", "2030-06-21T10:15:00Z"),
    backup("keen-pitcher.before-20300620.db", "set_aside", "2030-06-20T10:15:00Z"),
    backup("keen-pitcher-2030-06-19.zip", "daily", "2030-06-19T08:00:00Z"),
    backup("keen-pitcher-2030-06-01.zip", "daily", null),
  ];
  server.answer = (request) => {
    const path = new URL(request.url, "http://kitchen").pathname;
    if (request.method !== "GET") {
      told.push(`${request.method} ${decodeURIComponent(path)}`);
      if (path === "/api/house/backups") return Promise.resolve(json({ backups: kept }));
      damaged = false;
      return Promise.resolve(json({ aside: "keen-pitcher.damaged-1.db" }));
    }
    if (path === "/api/shelf") {
      const condition = damaged ? "damaged" : "sound";
      const message = damaged ? "The data file can't be used any more: it is empty." : null;
      return Promise.resolve(json({ condition, message, set_aside: [] }));
    }
    return Promise.resolve(json({ backups: kept }));
  };
});
afterEach(cleanup);

function show(what: React.ReactNode) {
  const client = new QueryClient({ defaultOptions: { queries: { retry: false } } });
  return render(<QueryClientProvider client={client}>{what}</QueryClientProvider>);
}

const rows = async () =>
  within(await screen.findByRole("list", { name: "Backups" })).findAllByRole("listitem");

it("says of each backup why it was made, and offers to restore those that can be read", async () => {
  show(<House onClose={() => undefined} />);
  const all = await rows();
  const texts = all.map((row) => row.textContent);
  expect(texts[0]).toContain("made by you");
  expect(texts[1]).toContain("before a restore");
  expect(texts[2]).toContain("daily backup");
  expect(texts[3]).toContain("can't be read");
  const offers = all.map((row) => within(row).queryByRole("button", { name: "Restore" }) !== null);
  expect(offers).toEqual([true, true, true, false]);
});

it("asks before it restores, and says where the data before is", async () => {
  show(<House onClose={() => undefined} />);
  const first = (await rows())[1]!;
  fireEvent.click(within(first).getByRole("button", { name: "Restore" }));
  const asks = await screen.findByRole("alertdialog");
  expect(told).toEqual([]);
  fireEvent.click(within(asks).getByRole("button", { name: "Cancel" }));
  expect(screen.queryByRole("alertdialog")).toBeNull();
  expect(told).toEqual([]);
  fireEvent.click(within(first).getByRole("button", { name: "Restore" }));
  fireEvent.click(
    within(await screen.findByRole("alertdialog")).getByRole("button", { name: "Restore" }),
  );
  await screen.findByText(/saved as keen-pitcher\.damaged-1\.db/);
  expect(told).toEqual(["POST /api/house/backups/keen-pitcher.before-20300620.db"]);
});

it("names the backup that was just made, wherever it is in the list", async () => {
  kept = [kept[2]!, kept[0]!];
  show(<House onClose={() => undefined} />);
  fireEvent.click(await screen.findByRole("button", { name: "Back up now" }));
  await screen.findByText(/keen-pitcher-2030-06-21-101500\.zip/);
});

it("leads from a damaged data file to the backups, and is silent about a sound one", async () => {
  damaged = true;
  show(<ShelfTroubles />);
  fireEvent.click(await screen.findByRole("button", { name: "Restore a backup" }));
  const first = (await rows())[0]!;
  fireEvent.click(within(first).getByRole("button", { name: "Restore" }));
  fireEvent.click(
    within(await screen.findByRole("alertdialog")).getByRole("button", { name: "Restore" }),
  );
  await waitFor(() => expect(screen.queryByText(/can't be used any more/)).toBeNull());
});
