import { afterEach, describe, expect, it } from "vitest";
import { clockTime, day, dayAndTime, dayAndYear, speakAs, wholeDay } from "./dates";

const at = new Date("2030-06-22T13:05:00Z");
const early = new Date("2030-06-22T00:30:00Z");

describe("days and times", () => {
  afterEach(() => speakAs(["en-GB"]));

  it("are as the browser's language writes them", () => {
    speakAs(["en-GB"]);
    expect(clockTime(at, "UTC")).toBe("13:05");
    expect(clockTime(early, "UTC")).toBe("0:30");
    expect(wholeDay(at, "UTC")).toBe("Saturday 22 June");
    expect(dayAndTime(at, "UTC")).toBe("Saturday 22 June, 13:05");
    speakAs(["en-US", "en"]);
    expect(clockTime(at, "UTC")).toBe("1:05 pm");
    expect(clockTime(early, "UTC")).toBe("12:30 am");
    expect(wholeDay(at, "UTC")).toBe("Saturday, June 22");
    expect(day(at)).toBe("Jun 22");
  });

  it("have English words in any browser, on its clock", () => {
    speakAs(["de-DE"]);
    expect(dayAndYear(at)).toBe("22 Jun 2030");
    expect(clockTime(at, "UTC")).toBe("13:05");
    speakAs(["hi-IN", "en-IN"]);
    expect(clockTime(at, "UTC")).toBe("1:05 pm");
    speakAs([]);
    expect(clockTime(at, "UTC")).toBe("13:05");
  });

  it("are told in the zone where the kitchen is", () => {
    expect(clockTime(at, "Asia/Kathmandu")).toBe("18:50");
    expect(wholeDay(new Date("2030-06-22T23:30:00Z"), "Europe/Berlin")).toBe("Sunday 23 June");
  });
});
