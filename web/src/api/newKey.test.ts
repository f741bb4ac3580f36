import { afterEach, expect, it, vi } from "vitest";
import { newKey } from "./newKey";

afterEach(() => vi.unstubAllGlobals());

it("makes names that nobody has used", () => {
  const keys = new Set(Array.from({ length: 500 }, newKey));
  expect(keys.size).toBe(500);
  for (const key of keys) expect(key).toMatch(/^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/);
});

it("makes them where the page came without encryption, too", async () => {
  // There a browser has random numbers, and no ready-made name.
  const { getRandomValues } = crypto;
  vi.stubGlobal("crypto", { getRandomValues: getRandomValues.bind(crypto) });
  vi.resetModules();
  const { newKey: there } = await import("./newKey");
  expect(there()).not.toBe(there());
});
