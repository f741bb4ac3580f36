import { describe, expect, it } from "vitest";
import { left, momentOf, share, until } from "./clock";

const noon = new Date(2030, 5, 21, 12, 0).getTime();

describe("times of a batch", () => {
  it("says until when, and on which day", () => {
    expect(until(noon + 125 * 60_000, noon)).toBe("14:05");
    expect(until(noon - 180 * 60_000, noon)).toBe("9:00");
    expect(until(noon + 20 * 3_600_000, noon)).toBe("tomorrow 8:00");
    expect(until(noon + 68 * 3_600_000, noon)).toBe("Monday 8:00");
  });

  it("counts what is left, and says when it is over", () => {
    expect(left(noon + 12.2 * 60_000, noon)).toBe("13 min");
    expect(left(noon + 45_000, noon)).toBe("0:45");
    expect(left(noon + 200 * 60_000, noon)).toBe("3 h 20 min");
    expect(left(noon, noon)).toBe("over");
    expect(left(noon - 5000, noon)).toBe("over");
  });

  it("fills as time passes, and never beyond", () => {
    expect(share(0, 100, 25)).toBe(0.25);
    expect(share(0, 100, 900)).toBe(1);
    expect(share(0, 100, -5)).toBe(0);
    expect(share(5, 5, 5)).toBe(1);
  });

  it("counts from when the batch was begun", () => {
    expect(momentOf("2030-06-21T10:00:00Z", 90)).toBe(Date.parse("2030-06-21T11:30:00Z"));
  });
});
