import { readdirSync, readFileSync } from "node:fs";
import { dirname, join, relative } from "node:path";
import { expect, it } from "vitest";

const root = import.meta.dirname;

/** What the files of each folder import from others. */
function imported() {
  const by = new Map<string, Set<string>>();
  for (const entry of readdirSync(root, { recursive: true, withFileTypes: true })) {
    if (!/\.tsx?$/.test(entry.name) || /\.test\./.test(entry.name)) continue;
    const folder = relative(root, entry.parentPath);
    const text = readFileSync(join(entry.parentPath, entry.name), "utf8");
    for (const [, path] of text.matchAll(/(?:from |import\()"(\.[^"]+)"/g)) {
      const other = relative(root, dirname(join(entry.parentPath, path!)));
      if (other !== folder) by.set(folder, (by.get(folder) ?? new Set()).add(other));
    }
  }
  return by;
}

it("has no folder that imports one that imports it, however far round", () => {
  const by = imported();
  expect(by.size).toBeGreaterThan(15);
  const reached = (from: string, seen = new Set<string>()): Set<string> => {
    for (const next of by.get(from) ?? []) {
      if (!seen.has(next)) reached(next, seen.add(next));
    }
    return seen;
  };
  expect([...by.keys()].filter((folder) => reached(folder).has(folder))).toEqual([]);
});
