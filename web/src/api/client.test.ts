import { describe, expect, it } from "vitest";
import { answer, asking, CallFailed, type Problem, windowId } from "./client";

const problem = (status: number, detail: string): Problem =>
  ({ type: "invalid", title: "No", status, detail }) as Problem;
const response = (status: number) => new Response(null, { status });
const failed = (call: Parameters<typeof answer>[0]) =>
  answer(call).then(
    () => undefined,
    (error: unknown) => error,
  );

describe("what the server answers", () => {
  it("is its data", async () => {
    await expect(answer(Promise.resolve({ data: 7, response: response(200) }))).resolves.toBe(7);
  });

  it("is what it says is wrong, with all that it says", async () => {
    const said = problem(422, "There is no vessel of that name.");
    const error = await failed(Promise.resolve({ error: said, response: response(422) }));
    expect(error).toBeInstanceOf(CallFailed);
    expect((error as CallFailed).message).toBe("There is no vessel of that name.");
    expect((error as CallFailed).problem).toEqual(said);
    expect((error as CallFailed).mayPass).toBe(false);
  });

  it("may go well later when the shelf can't do it now", async () => {
    const full = problem(507, "The disk is full.");
    const error = await failed(Promise.resolve({ error: full, response: response(507) }));
    expect((error as CallFailed).mayPass).toBe(true);
  });

  it("may go well when it is asked again because an older question overtook it", async () => {
    const overtaken = {
      ...problem(409, "A newer question replaced this one."),
      type: "superseded",
    };
    const error = await failed(Promise.resolve({ error: overtaken, response: response(409) }));
    expect((error as CallFailed).mayPass).toBe(true);
    const stale = { ...problem(409, "Someone changed this plan."), type: "stale" };
    const refused = await failed(Promise.resolve({ error: stale, response: response(409) }));
    expect((refused as CallFailed).mayPass).toBe(false);
  });

  it("isn't taken for words when it is something else", async () => {
    for (const odd of [undefined, "<html>", { detail: 3 }]) {
      const error = await failed(Promise.resolve({ error: odd, response: response(502) }));
      expect((error as Error).message).toContain("couldn't read Keen Pitcher's answer (502)");
      expect((error as CallFailed).problem).toBeUndefined();
    }
  });
});

describe("a server that isn't answering", () => {
  it("is said so, and may be back later", async () => {
    const error = await failed(Promise.reject(new TypeError("fetch failed")));
    expect((error as Error).message).toBe("Keen Pitcher isn't answering. Is it still running?");
    expect((error as CallFailed).mayPass).toBe(true);
  });

  it("isn't blamed for a question that this window gave up", async () => {
    const given = new DOMException("given up", "AbortError");
    expect(await failed(Promise.reject(given))).toBe(given);
  });
});

it("says which part of which window asks", () => {
  expect(asking("aim")).toEqual({ "x-asker": `${windowId}/aim` });
});
