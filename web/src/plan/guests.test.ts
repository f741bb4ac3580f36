import { describe, expect, it } from "vitest";
import { invite, invited } from "./guests";

const known = ["wren", "beekeeper", "child"];

describe("the guests of a plan", () => {
  it("are everybody until somebody is named", () => {
    expect(invited(known, [])).toEqual(known);
    expect(invited(known, ["child"])).toEqual(["child"]);
    // Who is named but known no more leaves no empty table.
    expect(invited(known, ["gone"])).toEqual(known);
    expect(invited(known, ["gone", "wren"])).toEqual(["wren"]);
  });

  it("are named when one stays away, and are everybody again when all come", () => {
    const two = invite(known, [], "child");
    expect(two).toEqual(["wren", "beekeeper"]);
    expect(invite(known, two, "child")).toEqual([]);
  });

  it("are never nobody", () => {
    expect(invite(known, ["wren"], "wren")).toEqual(["wren"]);
    expect(invite(["wren"], [], "wren")).toEqual([]);
  });

  it("forget who isn't known any more with the next change", () => {
    expect(invite(known, ["wren", "gone"], "child")).toEqual(["wren", "child"]);
  });
});
