import { describe, expect, it } from "vitest";
import { fitted, pictureOf } from "./pictures";

describe("a batch's picture", () => {
  it("is made small in its own proportion, and never larger", () => {
    expect(fitted(4000, 3000)).toEqual({ width: 1600, height: 1200 });
    expect(fitted(3000, 4000)).toEqual({ width: 1200, height: 1600 });
    expect(fitted(640, 480)).toEqual({ width: 640, height: 480 });
    // A strip as thin as a hair is still something to draw.
    expect(fitted(100_000, 1)).toEqual({ width: 1600, height: 1 });
  });

  it("has another address when it is another one, and none where there is none", () => {
    const at = (picture?: string | null) => pictureOf({ id: "b", picture });
    expect(at()).toBeUndefined();
    expect(at(null)).toBeUndefined();
    expect(at("2030-06-21T10:00:00Z")).toBe(
      "/api/batches/b/picture?since=2030-06-21T10%3A00%3A00Z",
    );
    expect(at("2030-06-21T10:00:01Z")).not.toBe(at("2030-06-21T10:00:00Z"));
  });
});
