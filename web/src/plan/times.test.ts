import { describe, expect, it } from "vitest";
import {
  movedBy,
  civil,
  comingSaturday,
  date,
  dayAndHour,
  hour,
  hours,
  moved,
  weekday,
  type Clock,
} from "./times";

const at = (zone: string, moment: string): Clock => ({ zero: Date.parse(moment), zone });
const london = at("Europe/London", "2030-06-22T14:00:00Z");

describe("times of a plan", () => {
  it("shows the clock on the kitchen's wall", () => {
    expect(hour(london, 0)).toBe("15:00");
    expect(hour(london, -335.6)).toBe("9:24");
    expect(weekday(london, 0)).toBe("Saturday");
    expect(date(london, -1440)).toBe("Friday 21 June");
    expect(dayAndHour(london, -30)).toBe("14:30");
    expect(dayAndHour(london, -1230)).toBe("Friday 18:30");
  });

  it("is kept as it stands on the wall", () => {
    expect(civil(london, 0)).toBe("2030-06-22T15:00");
    expect(civil(london, -900)).toBe("2030-06-22T00:00");
    expect(moved("2030-06-22T23:50", 15)).toBe("2030-06-23T00:05");
    expect(moved("2030-03-01T00:00", -1440)).toBe("2030-02-28T00:00");
  });

  it("goes on through a change of the clocks", () => {
    // At two in the morning of the 31st of March 2030 it is three.
    const sunday = at("Europe/Berlin", "2030-03-31T12:00:00Z");
    expect(hour(sunday, 0)).toBe("14:00");
    expect(hour(sunday, -12 * 60)).toBe("1:00");
    expect(civil(sunday, -11 * 60)).toBe("2030-03-31T03:00");
  });

  it("finds the full hours, also where zones are off by quarters", () => {
    expect(hours(london, -130, 0).map((h) => h.text)).toEqual(["13:00", "14:00", "15:00"]);
    const quarter = at("Asia/Kathmandu", "2030-06-22T09:15:00Z");
    expect(hours(quarter, -70, 0)).toEqual([
      { at: -60, text: "14:00" },
      { at: 0, text: "15:00" },
    ]);
  });

  it("thinks of the Saturday that comes, and not of today", () => {
    expect(comingSaturday(new Date(2030, 5, 19, 9))).toBe("2030-06-22T15:00");
    expect(comingSaturday(new Date(2030, 5, 22, 9))).toBe("2030-06-29T15:00");
  });
});

it("says by how much a task has moved, and which way", () => {
  expect(movedBy(25)).toBe("25 min later than planned");
  expect(movedBy(-5)).toBe("5 min earlier than planned");
});
