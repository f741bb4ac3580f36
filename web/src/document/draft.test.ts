import { afterEach, describe, expect, it, vi } from "vitest";
import { browserDrafts as stored, compare, type Draft } from "./draft";
import type { Kept } from "./saving";

interface Text {
  readonly text: string;
}
const browserDrafts = stored<Text>();

const of = (text: string): Text => ({ text });
const draft = (version: number, note: string, underway?: string): Draft<Text> => ({
  version,
  content: of(note),
  underway: underway === undefined ? undefined : { content: of(underway), key: "k" },
});
const kept = (version: number, note: string): Kept<Text> => ({
  version,
  changed_at: "",
  content: of(note),
});

describe("a draft beside what is on the shelf", () => {
  it("is nothing without a draft, or when the shelf has just that", () => {
    expect(compare(undefined, kept(1, "a")).kind).toBe("nothing");
    expect(compare(draft(1, "a"), kept(2, "a")).kind).toBe("nothing");
  });

  it("goes on top of the version that it was made on", () => {
    expect(compare(draft(3, "sweeter"), kept(3, "a"))).toEqual({
      kind: "goes on",
      content: of("sweeter"),
    });
  });

  it("goes on when what was on its way has arrived, though nobody heard the answer", () => {
    expect(compare(draft(3, "sweeter still", "sweeter"), kept(4, "sweeter")).kind).toBe("goes on");
  });

  it("stands against the shelf when another hand has changed it since", () => {
    expect(compare(draft(3, "sweeter"), kept(4, "sourer"))).toEqual({
      kind: "conflict",
      content: of("sweeter"),
    });
    expect(compare(draft(3, "sweeter still", "sweeter"), kept(5, "sourer")).kind).toBe("conflict");
  });
});

describe("the browser's own storage", () => {
  afterEach(() => void vi.unstubAllGlobals());

  /** A browser's storage: text under names, or one that refuses everything. */
  function storage(refuses = false) {
    const texts = new Map<string, string>();
    const ask = <T>(answer: () => T) => {
      if (refuses) throw new Error("not allowed here");
      return answer();
    };
    vi.stubGlobal("localStorage", {
      getItem: (name: string) => ask(() => texts.get(name) ?? null),
      setItem: (name: string, text: string) => ask(() => texts.set(name, text)),
      removeItem: (name: string) => ask(() => texts.delete(name)),
    });
    return texts;
  }

  it("gives back what was written, each drink its own, until it is forgotten", () => {
    storage();
    browserDrafts.write("lime", draft(3, "sweeter", "sweet"));
    browserDrafts.write("hibiscus", draft(1, "redder"));
    expect(browserDrafts.read("lime")).toEqual(draft(3, "sweeter", "sweet"));
    expect(browserDrafts.read("hibiscus")?.content.text).toBe("redder");
    browserDrafts.forget("lime");
    expect(browserDrafts.read("lime")).toBeUndefined();
    expect(browserDrafts.read("hibiscus")).toBeDefined();
  });

  it("finds no draft in text that isn't one", () => {
    const texts = storage();
    browserDrafts.write("lime", draft(3, "sweeter"));
    for (const name of texts.keys()) texts.set(name, "{half of");
    expect(browserDrafts.read("lime")).toBeUndefined();
  });

  it("doesn't stand in the way where the browser allows none", () => {
    storage(true);
    expect(() => {
      browserDrafts.write("lime", draft(3, "sweeter"));
      browserDrafts.forget("lime");
    }).not.toThrow();
    expect(browserDrafts.read("lime")).toBeUndefined();
  });
});
