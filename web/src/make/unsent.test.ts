// @vitest-environment happy-dom
import { afterEach, beforeEach, expect, test, vi } from "vitest";

const fetched = vi.hoisted(() => {
  const fetched = vi.fn<(request: Request) => Promise<Response>>();
  globalThis.fetch = fetched as unknown as typeof fetch;
  return fetched;
});
const { batchesUnsent, keepUnsent, sendUnsent, unsent, wasHeard } = await import("./unsent");

const note = (text: string, key: string) => ({
  what: { note: { text } } as never,
  sure: false,
  key,
});
const said = async (request: Request) => {
  const body = (await request.clone().json()) as { what: { note: { text: string } } };
  return `${body.what.note.text} ${request.headers.get("idempotency-key")}`;
};

beforeEach(() => {
  localStorage.clear();
  fetched.mockReset();
});
afterEach(() => vi.useRealTimers());

test("what isn't heard stays, in its order, and is there once however often it is kept", () => {
  keepUnsent("b1", note("first", "key-one-1"));
  keepUnsent("b1", note("second", "key-two-2"));
  keepUnsent("b2", note("other", "key-three"));
  keepUnsent("b1", note("second", "key-two-2"));
  expect(unsent("b1").map((it) => it.key)).toEqual(["key-one-1", "key-two-2"]);
  expect(batchesUnsent().sort()).toEqual(["b1", "b2"]);
  wasHeard("b1", "key-one-1");
  wasHeard("b2", "key-three");
  expect(unsent("b1").map((it) => it.key)).toEqual(["key-two-2"]);
  expect(batchesUnsent()).toEqual(["b1"]);
});

test("a store that holds nonsense holds nothing", () => {
  localStorage.setItem("keen-pitcher/unsent/b1", "{");
  expect(unsent("b1")).toEqual([]);
  localStorage.setItem("keen-pitcher/unsent/b1", '[null, {"key": ""}]');
  expect(unsent("b1")).toEqual([]);
});

test("a page that opens sends what the one before left, under the same keys, until it is heard", async () => {
  vi.useFakeTimers();
  keepUnsent("b1", note("first", "key-one-1"));
  keepUnsent("b1", note("second", "key-two-2"));
  const heard: string[] = [];
  let away = 2;
  fetched.mockImplementation(async (request) => {
    if (away-- > 0) throw new TypeError("no network");
    heard.push(await said(request));
    return new Response("{}", { status: 200, headers: { "content-type": "application/json" } });
  });
  const changed = vi.fn();
  const sending = sendUnsent(changed, () => false);
  await vi.advanceTimersByTimeAsync(20_000);
  await sending;
  expect(heard).toEqual(["first key-one-1", "second key-two-2"]);
  expect(unsent("b1")).toEqual([]);
  expect(changed).toHaveBeenCalledTimes(2);
});

test("what is refused for good isn't sent for ever", async () => {
  keepUnsent("b1", note("late", "key-one-1"));
  fetched.mockImplementation(() =>
    Promise.resolve(
      new Response(JSON.stringify({ type: "not-found", status: 404, title: "", detail: "gone" }), {
        status: 404,
        headers: { "content-type": "application/problem+json" },
      }),
    ),
  );
  await sendUnsent(
    () => undefined,
    () => false,
  );
  expect(unsent("b1")).toEqual([]);
});
