import { describe, expect, it } from "vitest";
import type { VersionView } from "../../api/client";
import { placesOf, shortName } from "./useVersions";

const version = (of: Partial<VersionView>): VersionView => ({
  version: 1,
  since: "2030-06-21T10:00:00Z",
  name: "",
  made: 0,
  now: false,
  changes: [],
  point: { sweetness: 9, acidity: 0.6 },
  readable: true,
  ...of,
});

describe("versions on the map", () => {
  const now = version({ version: 4, now: true, name: "as it is" });
  const named = version({ version: 3, name: "for the fête" });
  const plain = version({ version: 2 });
  const lost = version({ version: 1, name: "before", point: null, readable: false });
  const all = [now, named, plain, lost];

  it("are those with a name, until others are chosen", () => {
    const shown = placesOf(all, undefined);
    expect(shown).toEqual([{ id: "3", name: "for the fête", spot: named.point }]);
    expect(placesOf(all, [2]).map((p) => p.id)).toEqual(["2"]);
    expect(placesOf(all, [])).toEqual([]);
  });

  it("have a place only where they can be read", () => {
    expect(placesOf(all, [1, 2]).map((p) => p.id)).toEqual(["2"]);
  });

  it("are called by their day where they have no name", () => {
    expect(shortName(plain)).toMatch(/^21 Jun/);
    expect(shortName(named)).toBe("for the fête");
  });
});
