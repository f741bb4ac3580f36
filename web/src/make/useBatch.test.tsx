// @vitest-environment happy-dom
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { act, cleanup, renderHook, waitFor } from "@testing-library/react";
import type { ReactNode } from "react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import type { BatchView, Happening } from "../api/client";
import { useBatch } from "./useBatch";

// The client takes the browser's fetch when it is made, which is before any test runs.
const server = vi.hoisted(() => {
  const closed: (request: Request) => Promise<Response> = () => Promise.reject(new Error("closed"));
  const stub = { answer: closed };
  globalThis.fetch = (request) => stub.answer(request as Request);
  return stub;
});

interface Heard {
  key: string;
  what: Happening;
  sure: boolean;
}

/** What the server was told, and what it says next; a batch that counts what was said of it. */
let heard: Heard[] = [];
let next: ((said: Heard) => Response | Promise<Response>)[] = [];
/** What a question of how it stands is answered with, where that takes longer. */
let asked: (() => Promise<Response>)[] = [];
const json = (body: object, status = 200) =>
  new Response(JSON.stringify(body), {
    status,
    headers: { "content-type": status < 400 ? "application/json" : "application/problem+json" },
  });
const view = (said: number) => ({ id: "b1", said }) as unknown as BatchView;
const problem = (type: string, status: number, detail: string) =>
  json({ type, title: "No", status, detail }, status);

beforeEach(() => {
  heard = [];
  next = [];
  asked = [];
  vi.useFakeTimers({ shouldAdvanceTime: true });
  server.answer = async (request) => {
    if (request.method === "GET") return asked.shift()?.() ?? json(view(heard.length));
    const { what, sure } = (await request.json()) as Heard;
    const said = { key: request.headers.get("idempotency-key")!, what, sure };
    heard.push(said);
    const answer = next.shift();
    return answer ? answer(said) : json(view(heard.length));
  };
});
afterEach(() => {
  cleanup();
  vi.useRealTimers();
});

async function open() {
  const client = new QueryClient({ defaultOptions: { queries: { retry: false } } });
  const wrapper = ({ children }: { children: ReactNode }) => (
    <QueryClientProvider client={client}>{children}</QueryClientProvider>
  );
  const batch = renderHook(() => useBatch("b1"), { wrapper });
  await waitFor(() => expect(batch.result.current.view).toBeDefined());
  return batch;
}
const done = (step: string) => ({ done: { step } }) as unknown as Happening;

describe("a batch that is told something", () => {
  it("shows what the server makes of it", async () => {
    const batch = await open();
    await act(() => batch.result.current.say(done("s1")));
    expect(batch.result.current.view).toEqual(view(1));
    expect(heard.map((h) => h.what)).toEqual([done("s1")]);
  });

  it("says it again under the same key until it is heard, and says meanwhile what is wrong", async () => {
    const batch = await open();
    next = [
      () => Promise.reject(new TypeError("no network")),
      () => problem("unavailable", 507, "The disk is full."),
    ];
    let told: boolean | undefined;
    act(() => void batch.result.current.say(done("s1")).then((was) => (told = was)));
    await waitFor(() => expect(batch.result.current.wrong).toMatch(/isn't answering/));
    await act(() => vi.advanceTimersByTimeAsync(2100));
    await waitFor(() => expect(batch.result.current.wrong).toBe("The disk is full."));
    expect(told).toBeUndefined();
    await act(() => vi.advanceTimersByTimeAsync(2100));
    await waitFor(() => expect(told).toBe(true));
    expect(batch.result.current.wrong).toBeUndefined();
    expect(new Set(heard.map((h) => h.key)).size).toBe(1);
    expect(heard).toHaveLength(3);
  });

  it("asks about what can't be, and takes it where one is sure of it", async () => {
    const batch = await open();
    next = [() => problem("doubtful", 422, "900 °Bx? Sugar itself has 100.")];
    const odd = { reading: { vessel: "pot", quantity: "brix", value: 900 } } as never as Happening;
    expect(await act(() => batch.result.current.say(odd))).toBe(false);
    expect(batch.result.current.doubt).toEqual({
      question: "900 °Bx? Sugar itself has 100.",
      what: odd,
    });
    await act(() => batch.result.current.say(odd, true));
    expect(batch.result.current.doubt).toBeUndefined();
    expect(heard.map((h) => h.sure)).toEqual([false, true]);
    expect(heard[0]!.key).not.toBe(heard[1]!.key);
  });

  it("is left alone by what was refused for good", async () => {
    const batch = await open();
    next = [() => problem("invalid", 422, "There is no step “s9”.")];
    expect(await act(() => batch.result.current.say(done("s9")))).toBe(false);
    expect(batch.result.current.wrong).toBe("There is no step “s9”.");
    await act(() => vi.advanceTimersByTimeAsync(9000));
    expect(heard).toHaveLength(1);
    await act(() => batch.result.current.say(done("s1")));
    expect(batch.result.current.wrong).toBeUndefined();
  });

  it("hears one thing after the other, in the order in which it was said", async () => {
    const batch = await open();
    let free = () => undefined as void;
    next = [() => new Promise((answer) => (free = () => answer(json(view(1)))))];
    act(() => void batch.result.current.say(done("s1")));
    let second: Promise<boolean>;
    act(() => void (second = batch.result.current.say(done("s2"))));
    await waitFor(() => expect(heard).toHaveLength(1));
    await act(async () => {
      free();
      await second!;
    });
    expect(heard.map((h) => h.what)).toEqual([done("s1"), done("s2")]);
  });

  it("doesn't go back to what was asked before and answered after", async () => {
    const batch = await open();
    let late = () => undefined as void;
    asked = [() => new Promise((answer) => (late = () => answer(json(view(0)))))];
    act(() => batch.result.current.again());
    await act(() => batch.result.current.say(done("s1")));
    expect(batch.result.current.view).toEqual(view(1));
    await act(async () => {
      late();
      await vi.advanceTimersByTimeAsync(50);
    });
    expect(batch.result.current.view).toEqual(view(1));
  });

  it("isn't told again what was under way when one has left", async () => {
    const batch = await open();
    next = [() => Promise.reject(new TypeError("no network"))];
    let told: boolean | undefined;
    act(() => void batch.result.current.say(done("s1")).then((was) => (told = was)));
    await waitFor(() => expect(batch.result.current.wrong).toBeDefined());
    batch.unmount();
    await vi.advanceTimersByTimeAsync(2100);
    await waitFor(() => expect(told).toBe(true));
    expect(heard, "what waits is said once more, and no more than that").toHaveLength(2);
  });
});
