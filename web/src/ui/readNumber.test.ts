import { expect, test } from "vitest";
import { readCelsius, readIn, readMillimetres, readMinutes, readNumber } from "./readNumber";

test.each([
  ["190", 190],
  ["1.5", 1.5],
  ["1,5", 1.5],
  [".5", 0.5],
  [",5", 0.5],
  ["0,500", 0.5],
  ["12,25", 12.25],
  ["1,500", 1500],
  ["12,500", 12500],
  ["1,500,000", 1500000],
  ["1.500", 1.5],
  ["1.500.000", 1500000],
  ["1,500.5", 1500.5],
  ["1.500,5", 1500.5],
  ["1 500", 1500],
  ["1\u202f500,25", 1500.25],
  ["1234,5", 1234.5],
  ["1/2", 0.5],
  ["1 1/2", 1.5],
  ["2 3⁄4", 2.75],
  ["½", 0.5],
  ["1½", 1.5],
  ["1 ¾", 1.75],
  [" 7 ", 7],
  ["-3", -3],
  ["−2,5", -2.5],
  ["+4", 4],
])("“%s” is %d", (text, number) => {
  expect(readNumber(text)).toBeCloseTo(number, 9);
});

test.each([
  "",
  "  ",
  "a few",
  "12 h",
  "1,2,3",
  "1..5",
  "1,50,000",
  "1/0",
  "1 2",
  "½ ½",
  "1e5",
  "0x10",
  "Infinity",
])("“%s” is no number", (text) => {
  expect(readNumber(text)).toBeNaN();
});

test.each([
  ["90", 90],
  ["90 min", 90],
  ["40 s", 2 / 3],
  ["12 h", 720],
  ["12h", 720],
  ["1 1/2 hours", 90],
  ["1½ h", 90],
  ["1.5 hrs", 90],
  ["1,5 h", 90],
  ["1 h 30", 90],
  ["1 h 30 min", 90],
  ["1 hour and 15 minutes", 75],
  ["1:30", 90],
  ["2 days", 2880],
  ["a week", 10080],
  ["half an hour", 30],
  ["an hour", 60],
  ["overnight", 600],
  ["1 day 12 h", 2160],
])("“%s” is %d minutes", (text, minutes) => {
  expect(readMinutes(text)).toBeCloseTo(minutes, 9);
});

test.each(["", "soon", "12 x", "30 min 1 h", "1 h 2 h", "h", "12 h or so"])(
  "“%s” is no time",
  (text) => {
    expect(readMinutes(text)).toBeNaN();
  },
);

test.each([
  ["80", 80],
  ["80 °C", 80],
  ["80c", 80],
  ["175 °F", 79.4],
  ["212 F", 100],
  ["32 degrees fahrenheit", 0],
])("“%s” is %d °C", (text, degrees) => {
  expect(readCelsius(text)).toBeCloseTo(degrees, 1);
});

test.each([
  ["30", 30],
  ["3 cm", 30],
  ["1 inch", 25.4],
  ['1 1/2"', 38.1],
  ["2.5 in", 63.5],
])("“%s” is %d mm", (text, length) => {
  expect(readMillimetres(text)).toBeCloseTo(length, 1);
});

test("a field reads what its unit is, and shows how it is written", () => {
  expect(readIn("s", "2 min").number).toBeCloseTo(120);
  expect(readIn("s", "40").number).toBe(40);
  expect(readIn("", "1 1/2").number).toBe(1.5);
  expect(readIn("°C", "warm").number).toBeNaN();
  expect(readIn("min", "warm").example).toContain("12 h");
});
