// @vitest-environment happy-dom
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { act, cleanup, renderHook, waitFor } from "@testing-library/react";
import type { ReactNode } from "react";
import { afterEach, describe, expect, it } from "vitest";
import { useAsked, useQuestion } from "./ask";

afterEach(cleanup);

/** A question whose answers come when the test lets them. */
function slow() {
  const open = new Map<string, { resolve: (answer: string) => void; reject: (e: Error) => void }>();
  const signals = new Map<string, AbortSignal>();
  return {
    signals,
    ask: (of: string) => (signal: AbortSignal) => {
      signals.set(of, signal);
      return new Promise<string>((resolve, reject) => open.set(of, { resolve, reject }));
    },
    answer: (of: string) => act(async () => open.get(of)!.resolve(`of ${of}`)),
    fail: (of: string, why: string) => act(async () => open.get(of)!.reject(new Error(why))),
    asked: () => [...open.keys()],
  };
}

function within() {
  const client = new QueryClient({ defaultOptions: { queries: { retry: false } } });
  return ({ children }: { children: ReactNode }) => (
    <QueryClientProvider client={client}>{children}</QueryClientProvider>
  );
}

describe("a question that a screen asks by itself", () => {
  it("keeps the last answer while the next is on its way, and says that it waits", async () => {
    const { ask, answer } = slow();
    const view = renderHook(({ of }) => useQuestion(["q", of], ask(of)), {
      wrapper: within(),
      initialProps: { of: "24" },
    });
    expect(view.result.current.data).toBeUndefined();
    await answer("24");
    await waitFor(() => expect(view.result.current.data).toBe("of 24"));
    view.rerender({ of: "48" });
    expect(view.result.current).toMatchObject({ data: "of 24", waits: true });
    await answer("48");
    await waitFor(() => expect(view.result.current).toMatchObject({ data: "of 48", waits: false }));
  });

  it("lets a press act on what is asked now, not on what is shown", async () => {
    const { ask, answer } = slow();
    const view = renderHook(({ of }) => useQuestion(["q", of], ask(of)), {
      wrapper: within(),
      initialProps: { of: "24" },
    });
    await answer("24");
    view.rerender({ of: "48" });
    const made: string[] = [];
    // 48 is typed, the answer of 24 still stands there, and the button is pressed.
    const pressed = view.result.current.latest((found) => made.push(found));
    expect(made).toEqual([]);
    await answer("48");
    await pressed;
    expect(made).toEqual(["of 48"]);
  });

  it("does nothing on a press whose question fails, and shows why", async () => {
    const { ask, fail } = slow();
    const view = renderHook(() => useQuestion(["q"], ask("it")), { wrapper: within() });
    const made: string[] = [];
    const pressed = view.result.current.latest((found) => made.push(found));
    await fail("it", "It runs over.");
    await pressed;
    expect(made).toEqual([]);
    await waitFor(() => expect(view.result.current.error?.message).toBe("It runs over."));
  });

  it("asks nothing while it isn't wanted", () => {
    const { ask, asked } = slow();
    renderHook(() => useQuestion(["q"], ask("it"), false), { wrapper: within() });
    expect(asked()).toEqual([]);
  });
});

describe("a question that is asked on a press", () => {
  it("is answered for what it was asked of, and for nothing else", async () => {
    const { ask, answer } = slow();
    const one = { name: "one" };
    const view = renderHook(({ basis }) => useAsked<string>(basis), {
      initialProps: { basis: one },
    });
    act(() => void view.result.current.ask(ask("one")));
    await answer("one");
    expect(view.result.current.found).toBe("of one");
    view.rerender({ basis: { name: "another" } });
    expect(view.result.current.found).toBeUndefined();
    view.rerender({ basis: one });
    expect(view.result.current.found).toBe("of one");
    act(() => view.result.current.forget());
    expect(view.result.current.found).toBeUndefined();
  });

  it("asks the same of what is there now, if that changes before the answer", async () => {
    const { ask, answer, asked } = slow();
    const view = renderHook(({ basis }) => useAsked<string, string>(basis), {
      initialProps: { basis: "typed" },
    });
    act(() => void view.result.current.ask((signal, of) => ask(of)(signal)));
    view.rerender({ basis: "read" });
    expect(asked()).toEqual(["typed", "read"]);
    await answer("typed");
    expect(view.result.current.found).toBeUndefined();
    await answer("read");
    expect(view.result.current.found).toBe("of read");
    view.rerender({ basis: "changed" });
    expect(asked(), "what is answered isn't asked again").toHaveLength(2);
  });

  it("gives up the older one, whichever answers first", async () => {
    const { ask, answer, signals } = slow();
    const view = renderHook(() => useAsked<string>("it"));
    act(() => void view.result.current.ask(ask("old")));
    act(() => void view.result.current.ask(ask("new")));
    expect(signals.get("old")!.aborted).toBe(true);
    await answer("new");
    await answer("old");
    expect(view.result.current.found).toBe("of new");
  });

  it("tells what is wrong, and is given up with the screen", async () => {
    const { ask, fail, signals } = slow();
    const view = renderHook(() => useAsked<string>("it"));
    act(() => void view.result.current.ask(ask("bad")));
    await fail("bad", "No amounts reach that.");
    expect(view.result.current.wrong).toBe("No amounts reach that.");
    act(() => void view.result.current.ask(ask("late")));
    view.unmount();
    expect(signals.get("late")!.aborted).toBe(true);
  });
});
