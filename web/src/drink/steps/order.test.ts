import { beforeEach, describe, expect, it, vi } from "vitest";
import type { Drink, DrinkReport, Notice } from "../../api/client";
import type { Editor } from "../editing/editor";
import { reorder, tryOrder } from "./order";

const post = vi.hoisted(() => vi.fn<(path: string, asked: { body: Drink }) => Promise<unknown>>());
vi.mock("../../api/client", async (original) => ({
  ...(await original<object>()),
  api: { POST: post },
}));

const step = (id: string) =>
  ({ id, do: { stir: { vessel: "jug", until: "mixed" } } }) as unknown as Drink["steps"][number];
const drink = {
  name: "Lime",
  family: "lemonade",
  vessels: [],
  steps: [step("a"), step("b"), step("c")],
} as unknown as Drink;

/** A report with those notices of an empty vessel, and one of another kind. */
const report = (...empty: string[]) =>
  ({
    frames: [
      { notices: [{ kind: "bitter", message: "It is bitter." }] },
      { notices: empty.map((message) => ({ kind: "nothing_there", message }) as Notice) },
    ],
  }) as unknown as DrinkReport;

describe("another order of the steps", () => {
  const edit = vi.fn();
  const editor = { edit } as unknown as Editor;

  /** The core answers so. */
  function says(status: number, body: object) {
    post.mockImplementation(() => {
      const response = new Response(null, { status });
      return Promise.resolve(response.ok ? { data: body, response } : { error: body, response });
    });
  }

  beforeEach(() => void [edit, post].forEach((called) => called.mockReset()));

  it("is taken when every step still finds something", async () => {
    says(200, report());
    expect(await reorder(editor, drink, report(), "c", 0)).toBeUndefined();
    const asked = post.mock.lastCall?.[1].body;
    expect(asked?.steps.map((s) => s.id)).toEqual(["c", "a", "b"]);
    expect(edit).toHaveBeenCalledOnce();
  });

  it("is refused, with the reason, when a step would find an empty vessel", async () => {
    says(200, report("There is nothing in the jug to stir."));
    expect(await reorder(editor, drink, report(), "c", 0)).toBe(
      "There is nothing in the jug to stir.",
    );
    expect(edit).not.toHaveBeenCalled();
  });

  it("isn't refused for what was empty before", async () => {
    const before = "There is nothing in the bowl to pour.";
    says(200, report(before));
    expect(await reorder(editor, drink, report(before), "c", 0)).toBeUndefined();
    expect(edit).toHaveBeenCalledOnce();
  });

  it("changes nothing and says why when the server refuses or is away", async () => {
    says(422, { type: "invalid", title: "", status: 422, detail: "Not so." });
    expect(await reorder(editor, drink, report(), "c", 0)).toBe("Not so.");
    post.mockRejectedValue(new TypeError("fetch failed"));
    expect(await reorder(editor, drink, report(), "c", 0)).toContain("isn't answering");
    expect(edit).not.toHaveBeenCalled();
  });

  it("asks nobody where nothing changes", async () => {
    says(200, report());
    expect(await tryOrder(editor, drink, report(), (same) => same)).toBeUndefined();
    expect(await reorder(editor, drink, report(), "c", 2)).toBeUndefined();
    expect(post).not.toHaveBeenCalled();
    expect(edit).not.toHaveBeenCalled();
  });
});
