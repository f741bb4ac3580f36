import { QueryClient, QueryObserver } from "@tanstack/react-query";
import { beforeEach, describe, expect, it, vi } from "vitest";
import { apply, onDrinkChanged, read, readAll } from "./changes";
import { type Change, type InstrumentView, windowId } from "./client";

const KEYS = [["shelf", ""], ["bin"], ["kitchen"], ["settings"], ["cost", 1], ["sheet"]];

describe("changes in other windows", () => {
  let client: QueryClient;
  beforeEach(() => {
    client = new QueryClient();
    for (const key of KEYS) client.setQueryData(key, "known");
  });
  const old = () =>
    client
      .getQueryCache()
      .getAll()
      .filter((query) => query.state.isInvalidated)
      .map((query) => String(query.queryKey[0]))
      .sort();

  it("asks again for what hangs on a kitchen, and for nothing else", () => {
    apply(client, { of: "kitchen" });
    expect(old()).toEqual(["cost", "kitchen", "sheet", "shelf"]);
  });

  it("tells an open drink of its change, with the version, until it is closed", () => {
    const heard: unknown[] = [];
    const quiet = onDrinkChanged((id, version) => heard.push([id, version]));
    const change: Change = { of: "drink", id: "d1", version: 7 };
    apply(client, change);
    expect(heard).toEqual([["d1", 7]]);
    expect(old()).toEqual(["bin", "shelf"]);
    quiet();
    apply(client, change);
    expect(heard).toHaveLength(1);
  });

  it("takes no notice of what this window did itself", () => {
    apply(client, { of: "settings", by: windowId });
    expect(old()).toEqual([]);
    apply(client, { of: "settings", by: "another" });
    expect(old()).toEqual(["settings"]);
  });

  it("asks for everything again after the line was broken", () => {
    apply(client, { of: "everything" });
    expect(old()).toEqual(["bin", "cost", "kitchen", "settings", "sheet", "shelf"]);
  });
});

describe("what instruments read", () => {
  const scale = (value: number, stable: boolean, id = "a"): InstrumentView => ({
    id,
    kind: "scale",
    value,
    unit: "g",
    stable,
    condition: "here",
    practice: true,
  });

  it("is not put back by an answer that is older than what was told meanwhile", async () => {
    const client = new QueryClient();
    let arrive: (all: InstrumentView[]) => void = () => {};
    const asked = client.fetchQuery({
      queryKey: ["instruments", true],
      queryFn: () => readAll(true, () => new Promise((done) => (arrive = done))),
    });
    read(client, scale(0, true));
    read(client, scale(5, true, "b"));
    read(client, { ...scale(7, true, "c"), practice: false });
    arrive([scale(3, false)]);
    expect(await asked).toEqual([scale(0, true), scale(5, true, "b")]);
    // An answer that nothing overtook stands as it is, and what is told later stands in its place.
    expect(await readAll(true, () => Promise.resolve([scale(3, false)]))).toEqual([
      scale(3, false),
    ]);
    read(client, scale(9, true));
    expect(client.getQueryData(["instruments", true])).toEqual([
      scale(9, true),
      scale(5, true, "b"),
    ]);
  });
});

describe("a first answer that is on its way when something changes", () => {
  it("is asked for anew: it may be of before the change", async () => {
    const client = new QueryClient();
    const asked: ((bottles: string[]) => void)[] = [];
    const shown = new QueryObserver<string[]>(client, {
      queryKey: ["kept"],
      queryFn: () => new Promise((done) => asked.push(done)),
    });
    const leave = shown.subscribe(() => {});
    expect(asked).toHaveLength(1);
    apply(client, { of: "kept", by: "another window" } as Change);
    await vi.waitFor(() => expect(asked).toHaveLength(2));
    asked[0]!([]);
    asked[1]!(["a bottle"]);
    await vi.waitFor(() => expect(shown.getCurrentResult().data).toEqual(["a bottle"]));
    leave();
  });
});
