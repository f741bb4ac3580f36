import { describe, expect, it } from "vitest";
import type { PlanAnswer, PlanFile } from "../api/client";
import { asItStood, helped, meansOf, served, withDrink, withoutDrink } from "./changes";

const plan: PlanFile = {
  name: "Open day",
  serving: "2030-06-22T15:00",
  drinks: [
    { id: "a", drink: "lemonade", name: "Lemonade" },
    { id: "c", drink: "fizz", name: "Fizz", serving: "2030-06-22T16:30" },
  ],
  holds: [
    { task: "a/1/s1", at: "2030-06-22T09:00" },
    { task: "c/1/s1", at: "2030-06-22T10:00" },
  ],
  after: [
    { task: "a/1/s2", after: "c/1/s1" },
    { task: "a/1/s3", after: "a/1/s2" },
  ],
  ahead: ["a/s4", "c/s2"],
};

describe("a plan that is changed", () => {
  it("takes with it what has a time of its own", () => {
    const later = served(plan, "2030-06-23T14:15");
    expect(later.serving).toBe("2030-06-23T14:15");
    expect(later.drinks!.map((d) => d.serving)).toEqual([undefined, "2030-06-23T15:45"]);
    expect(later.holds!.map((h) => h.at)).toEqual(["2030-06-23T08:15", "2030-06-23T09:15"]);
    expect(served(later, plan.serving)).toEqual(plan);
  });

  it("remembers when its tasks stood, later or sooner with their drink", () => {
    const tasks = [
      { id: "a/1/s1", hands_from: -120.4 },
      { id: "c/1/s1", hands_from: -60 },
      { id: "gone/1/s1", hands_from: -30 },
    ];
    const drinks = [
      { id: "a", serve_at: 0 },
      { id: "c", serve_at: 90 },
    ];
    const answer = {
      zero: "2030-06-22T13:00:00Z",
      zone: "Europe/Berlin",
      drinks,
      plan: { under_way: false, tasks },
    } as unknown as PlanAnswer;
    const stood = (changed: PlanFile) => asItStood(changed, answer).stood;
    expect(stood(plan)).toEqual([
      { task: "a/1/s1", at: "2030-06-22T13:00" },
      { task: "c/1/s1", at: "2030-06-22T14:00" },
    ]);
    const [lemonade, fizz] = plan.drinks!;
    const later = { ...plan, drinks: [lemonade!, { ...fizz!, serving: "2030-06-22T16:35" }] };
    expect(stood(later)!.map((s) => s.at)).toEqual(["2030-06-22T13:00", "2030-06-22T14:05"]);
    expect(stood(served(plan, "2030-06-22T14:50"))!.map((s) => s.at)).toEqual([
      "2030-06-22T12:50",
      "2030-06-22T13:50",
    ]);
    expect(asItStood(plan, undefined)).toBe(plan);
    const going = { ...answer, plan: { ...answer.plan, under_way: true } } as PlanAnswer;
    expect(asItStood(plan, going)).toBe(plan);
  });

  it("stays as it is for what is no time, and for the same time", () => {
    for (const text of ["", "three o'clock", "2030-06-22", plan.serving])
      expect(served(plan, text)).toBe(plan);
  });

  it("gives each drink a letter that no other has, also where one was taken out", () => {
    const more = withDrink(plan, "syrup", "Syrup");
    expect(more.drinks!.map((d) => d.id)).toEqual(["a", "c", "b"]);
    expect(withDrink(more, "syrup", "Syrup").drinks!.map((d) => d.id)).toEqual([
      "a",
      "c",
      "b",
      "d",
    ]);
    expect(withDrink({ name: "", serving: plan.serving }, "x", "X").drinks).toEqual([
      { id: "a", drink: "x", name: "X" },
    ]);
  });

  it("forgets with a drink everything that was said of its tasks, and nothing else", () => {
    const without = withoutDrink(plan, "c");
    expect(without.drinks!.map((d) => d.id)).toEqual(["a"]);
    expect(without.holds).toEqual([plan.holds![0]]);
    expect(without.after).toEqual([plan.after![1]]);
    expect(without.ahead).toEqual(["a/s4"]);
    // "a" isn't "ab".
    const alike = withoutDrink({ ...plan, ahead: ["ab/s1"] }, "a");
    expect(alike.ahead).toEqual(["ab/s1"]);
  });

  it("has what it was helped with, beside what it had", () => {
    expect(meansOf(plan)).toEqual({ cooks: 1, rings: 4, refrigerator_l: 30 });
    const two = helped({ ...plan, means: { cooks: 2, rings: 2, refrigerator_l: 40 } }, "cook");
    expect(two.means).toEqual({ cooks: 3, rings: 2, refrigerator_l: 40 });
    expect(meansOf(helped(plan, "ring")).rings).toBe(5);
    expect(helped(plan, { ahead: "a/s9" }).ahead).toEqual(["a/s4", "c/s2", "a/s9"]);
    expect(helped(plan, { water_bath: "c/1/s7" }).drinks!.map((d) => d.water_bath)).toEqual([
      undefined,
      ["s7"],
    ]);
    expect(helped(plan, { vessel: "A second pot" })).toBe(plan);
  });
});
