import { describe, expect, it } from "vitest";
import { initials, placeNames, sideBySide } from "./names";

const named = (name: string, x: number, y: number) => ({ name, at: [x, y] as const });

describe("names on the map", () => {
  it("stand right of their mark", () => {
    const [one] = placeNames([named("24 Nov", 100, 50)], [], 300);
    expect(one).toEqual({ text: "24 Nov", x: 112, y: 50, left: false });
  });

  it("stand below one another where marks lie close, from top to bottom, in the order of the marks", () => {
    const names = placeNames(
      [named("b", 100, 52), named("a", 100, 50), named("c", 100, 90)],
      [],
      300,
    );
    expect(names.map((n) => n.text)).toEqual(["b", "a", "c"]);
    expect(names.map((n) => n.y)).toEqual([64, 50, 90]);
  });

  it("stand on no mark, neither another's nor one without a name", () => {
    const [first, second] = placeNames(
      [named("gatekeeper", 100, 50), named("night", 130, 53)],
      [[150, 80]],
      400,
    );
    expect(first!.x).toBe(142);
    // Moved down a line it would run into the drink itself, which is drawn larger.
    expect(second).toMatchObject({ y: 64, x: 170 });
    // A mark that is far away is in nobody's way.
    expect(placeNames([named("far", 100, 50)], [[290, 50]], 400)[0]!.x).toBe(112);
  });

  it("stand on the left where the plate ends, and are shortened to what is left", () => {
    const [one] = placeNames([named("The night watering", 290, 50)], [], 320);
    expect(one).toMatchObject({ left: true, x: 278, text: "The night watering" });
    const [short] = placeNames([named("The night watering", 200, 50)], [], 300);
    expect(short).toEqual({
      text: "The night wa…",
      x: 212,
      y: 50,
      left: false,
    });
    const [long] = placeNames([named("x".repeat(60), 20, 50)], [], 900);
    expect(long!.text).toHaveLength(18);
    // Three letters need no nine.
    expect(placeNames([named("Jo", 280, 50)], [], 320)[0]!.left).toBe(false);
  });
});

describe("people on the map", () => {
  it("are a letter each, or two where one would be shared", () => {
    expect(initials(["The gatekeeper", "The beekeeper", "Wren"])).toEqual(["G", "B", "W"]);
    expect(initials(["The bell-ringer", "The beekeeper"])).toEqual(["Bel", "Bee"]);
    expect(initials(["The youngest weeder", "Yew tree"])).toEqual(["YW", "YT"]);
    expect(initials(["", "The"])).toEqual(["?", "T"]);
  });

  it("never cover each other, and stay where they are if they don't", () => {
    const near = sideBySide(
      [
        [100, 50],
        [102, 52],
        [101, 49],
        [200, 50],
      ],
      20,
    );
    expect(near[0]).toEqual([100, 50]);
    expect(near[3]).toEqual([200, 50]);
    for (let a = 0; a < near.length; a++)
      for (let b = 0; b < a; b++)
        expect(Math.hypot(near[a]![0] - near[b]![0], near[a]![1] - near[b]![1])).toBeGreaterThan(
          19.9,
        );
  });
});
