import { QueryClient } from "@tanstack/react-query";
import { beforeEach, describe, expect, it } from "vitest";
import { apply, onDrinkChanged } from "./changes";
import { type Change, windowId } from "./client";

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
