import { describe, expect, it } from "vitest";
import { placeOn, saidOf } from "./words";

describe("what is there, and where a drink lies", () => {
  it("says what is counted by its count, and the rest with its name", () => {
    expect(saidOf({ name: "Lime juice", amount: "8 limes", said: true })).toBe("8 limes");
    expect(saidOf({ name: "White sugar", amount: "1 kg", said: true })).toBe("White sugar, 1 kg");
    expect(saidOf({ name: "Mint leaves", amount: "10 g", said: false })).toBe("Mint leaves");
  });

  it("keeps the place on the plate, also of what lies beyond its edge", () => {
    const map = {
      sweetness_max: 16,
      acidity_max: 0.8,
      bands: [{ ratio_from: 0 }, { ratio_from: 18 }],
      point: { sweetness: 40, acidity: 0.4 },
    } as Parameters<typeof placeOn>[0];
    const place = placeOn(map)!;
    expect(place.x).toBe(84);
    expect(place.y).toBe(35);
    expect(place.rays).toHaveLength(1);
    expect(placeOn({ ...map, point: null })).toBeUndefined();
  });
});
