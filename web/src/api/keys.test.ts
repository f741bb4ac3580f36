import { QueryClient } from "@tanstack/react-query";
import { describe, expect, it } from "vitest";
import { figuresChanged, keys, makeStale } from "./keys";

/** A client that knows an answer under each name, and two batches. */
function knowing(): QueryClient {
  const client = new QueryClient();
  for (const key of Object.values(keys)) client.setQueryData(key("one"), "known");
  client.setQueryData(keys.batch("two"), "known");
  return client;
}

const stale = (client: QueryClient) =>
  client
    .getQueryCache()
    .getAll()
    .filter((query) => query.state.isInvalidated)
    .map((query) => query.queryKey.join("/"))
    .sort();

describe("what a change makes stale", () => {
  it("a batch: its own view and the lists that it is in, and no other batch", async () => {
    const client = knowing();
    await makeStale(client, "batch", "one");
    expect(stale(client)).toEqual(["batch/one", "batches/one", "going/one", "history/one"]);
  });

  it("not what the change was answered with", async () => {
    const client = knowing();
    await makeStale(client, "tasting", "one", keys.tasting("one"));
    expect(stale(client)).not.toContain("tasting/one");
    expect(stale(client)).toContain("tastings/one");
  });

  it("the kitchen's figures: all that is worked out with them, but no document without them", async () => {
    const client = knowing();
    await figuresChanged(client);
    const of = stale(client);
    for (const name of ["cost", "sheet", "trace", "shelf", "history", "kept"])
      expect(of).toContain(`${name}/one`);
    for (const name of ["kitchen", "settings", "drink", "plan", "prospect", "versions"])
      expect(of).not.toContain(`${name}/one`);
  });

  it("everything: all but what never changes, what an open drink keeps, and what is asked for by itself", async () => {
    const client = knowing();
    await makeStale(client, "everything");
    const fresh = Object.keys(keys).filter((name) => !stale(client).includes(`${name}/one`));
    expect(fresh.sort()).toEqual([
      "backups",
      "condition",
      "drink",
      "prospect",
      "startingPoints",
      "stepForms",
    ]);
  });
});
