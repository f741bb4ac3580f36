import { afterEach, beforeEach, expect, it, vi } from "vitest";
import { createDocument } from "./document";
import type { Drafts } from "./draft";

beforeEach(() => void vi.useFakeTimers());
afterEach(() => void vi.useRealTimers());

it("stores nothing while a gesture is on its way, and once when it rests", () => {
  let writes = 0;
  const drafts: Drafts<{ text: string }> = {
    read: () => undefined,
    write: () => void (writes += 1),
    forget: () => undefined,
  };
  const never = () => new Promise<never>(() => undefined);
  const kept = { version: 1, changed_at: "", content: { text: "" } };
  const document = createDocument("dragged", kept, { save: never, read: never }, drafts);
  for (let i = 1; i <= 60; i += 1) document.edit(() => ({ text: `${i}` }), "drag", true);
  expect([document.content().text, writes]).toEqual(["60", 0]);
  document.rest();
  expect(writes).toBe(1);
  document.undo();
  expect(document.content().text).toBe("");
});
