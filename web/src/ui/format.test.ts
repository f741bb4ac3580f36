import { describe, expect, it } from "vitest";
import { inWords } from "./amountWords";
import {
  degrees,
  depth,
  effort,
  price,
  readAloud,
  roughly,
  span,
  speakIn,
  temperature,
  volume,
  weight,
  when,
} from "./format";

describe("figures as they are written", () => {
  it("changes the unit where a cook does, and never says 1000 ml", () => {
    expect([4.2, 9.96, 250, 999.4, 999.5, 40_000].map(volume)).toEqual([
      "4.2 ml",
      "10 ml",
      "250 ml",
      "999 ml",
      "1.00 l",
      "40.00 l",
    ]);
    expect([0.5, 46, 999.6].map(weight)).toEqual(["0.5 g", "46 g", "1.00 kg"]);
  });

  it("speaks in cups, quarts, gallons and °F where a kitchen does", () => {
    speakIn({ units: "us", degrees: "fahrenheit" });
    expect([5, 30, 60, 237, 655, 1940, 12_000, 0].map(volume)).toEqual([
      "1/4 fl oz",
      "1 fl oz",
      "1/4 cup",
      "1 cup",
      "2 3/4 cups",
      "2 qt",
      "3 1/4 gal",
      "0 cups",
    ]);
    expect([57, 66, 90].map(volume)).toEqual(["1/4 cup", "2 1/4 fl oz", "3 fl oz"]);
    expect([6, 38, 102].map(depth)).toEqual(["1/4 in", "1 1/2 in", "4 in"]);
    expect([80, -18, 21.4].map(temperature)).toEqual(["176 °F", "0 °F", "71 °F"]);
    expect(degrees()).toBe("°F");
    speakIn({});
    expect([6, 38.4].map(depth)).toEqual(["6 mm", "38 mm"]);
    expect([80, -0.3].map(temperature)).toEqual(["80 °C", "0 °C"]);
  });

  it("says hours from an hour and a half on", () => {
    expect([40, 89.4, 90, 120, 260].map(span)).toEqual([
      "40 min",
      "89 min",
      "1 h 30 min",
      "2 h",
      "4 h 20 min",
    ]);
  });

  it("rounds a plan, and never to no time at all", () => {
    expect([1, 13, 62, 361, 605].map(roughly)).toEqual([
      "5 min",
      "15 min",
      "60 min",
      "6 h",
      "10 h",
    ]);
  });

  it("says what a drink takes and how long it is good", () => {
    expect(effort({ hands_on_minutes: 15, minutes: 361 })).toEqual([
      "15 min hands-on",
      "ready in 6 h",
    ]);
  });

  it("says a price with its sign, if there is one", () => {
    expect([price(3.149, "€"), price(0.4, ""), price(2, undefined)]).toEqual([
      "3.15 €",
      "0.40",
      "2.00",
    ]);
  });

  it("tells a day by its distance", () => {
    const now = new Date(2030, 5, 21, 14, 0);
    const at = (...when: [number, number, number, number, number]) =>
      new Date(...when).toISOString();
    expect(when(at(2030, 5, 21, 13, 59), now)).toBe("just now");
    expect(when(at(2030, 5, 21, 9, 5), now)).toBe("today 9:05");
    expect(when(at(2030, 5, 20, 23, 0), now)).toBe("yesterday");
    expect(when(at(2030, 5, 19, 23, 0), now)).toBe("19 Jun");
  });
});

describe("an amount under the finger", () => {
  it("is said in fractions of what is counted and decimals of what is weighed", () => {
    expect(inWords(1.5, "cups")).toBe("1 1/2 cups");
    expect(inWords(0.25, "lemon")).toBe("1/4 lemon");
    expect(inWords(1.5, "l")).toBe("1.5 l");
    expect(inWords(4, "")).toBe("4");
  });
});

describe("a drink that is read aloud", () => {
  it("is told by its taste, and by no more than is known", () => {
    const profile = { sweetness_percent: 9.84, acidity_percent: 0.612, ratio: 16.08 };
    expect(readAloud(profile, "bright")).toBe(
      "9.8 g sweetness and 0.61 % acid, ratio 16.1, bright.",
    );
    expect(readAloud({ ...profile, ratio: null })).toBe("9.8 g sweetness and 0.61 % acid.");
  });
});
