// @vitest-environment happy-dom
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { cleanup, renderHook, waitFor } from "@testing-library/react";
import { afterEach, expect, it, vi } from "vitest";

const server = vi.hoisted(() => {
  const closed: (request: Request) => Promise<Response> = () => Promise.reject(new Error("closed"));
  const stub = { answer: closed };
  globalThis.fetch = (request) => stub.answer(request as Request);
  return stub;
});
const { useSay } = await import("./useSay");

afterEach(cleanup);

it("two answers in quick succession: the screen shows what both made of it, however slow the first is", async () => {
  const said: string[] = [];
  server.answer = async (request) => {
    const { word } = (await request.json()) as { word: { answered: { felt: string | null } } };
    const first = word.answered.felt !== null;
    said.push(first ? "felt" : "liked");
    const view = { id: "t1", said: [...said] };
    // The first is slow on its way back.
    await new Promise((done) => setTimeout(done, first ? 120 : 5));
    return new Response(JSON.stringify(view), { headers: { "content-type": "application/json" } });
  };
  const client = new QueryClient();
  const { result } = renderHook(() => useSay("t1"), {
    wrapper: ({ children }) => (
      <QueryClientProvider client={client}>{children}</QueryClientProvider>
    ),
  });
  const answered = (part: object) =>
    ({ answered: { taster: "a", code: "921", felt: null, liked: null, ...part } }) as never;
  result.current.say(answered({ felt: "too_sharp" }));
  result.current.say(answered({ liked: 4 }));
  await waitFor(() =>
    expect(client.getQueryData(["tasting", "t1"])).toEqual({ id: "t1", said: ["felt", "liked"] }),
  );
  await new Promise((done) => setTimeout(done, 200));
  expect(client.getQueryData(["tasting", "t1"])).toEqual({ id: "t1", said: ["felt", "liked"] });
});
