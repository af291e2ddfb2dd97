// @vitest-environment node
import { describe, expect, it } from "vitest";
import { byFeature, byKind, hintOf, kept, marksOf, type Requirement, type Rules } from "../src/rules";

const one = (id: number, kind: string, features: string[], on = true): Requirement => ({
  id,
  kind,
  name: `${kind} ${features.join(" ")}`,
  features,
  layer: null,
  weight: 1,
  tolerance: null,
  near: null,
  on,
  marks: 2.5,
  expected: null,
});
const rules: Rules = {
  unit: "mm",
  placement: "slide",
  tolerances: { length: 0.001, position: 0.001, angle_deg: 0.01, near: 0.5 },
  near_share: 0.5,
  marks: 10,
  any_unit: true,
  exact_layers: false,
  unit_charge: 0,
  roles: {},
  requirements: [
    one(1, "whole", []),
    one(2, "length", ["e1"]),
    one(3, "layer", ["e1"], false),
    one(4, "radius", ["c1"]),
    one(5, "clean", []),
  ],
};

describe("rules", () => {
  it("tell features apart by their size or place", () => {
    const group = (kind: string, expected: unknown) => ({
      id: "x",
      name: "X",
      requirements: [{ ...one(1, kind, ["x"]), expected: expected as never }],
    });
    expect(hintOf(group("length", 62.0004))).toBe("62.0004 long");
    expect(hintOf(group("length", 3.625))).toBe("3.625 long");
    expect(hintOf({ ...group("length", 150), id: "length" })).toBe("");
    expect(hintOf(group("radius", 3.5))).toBe("R3.5");
    expect(hintOf(group("position", [-1.25, 40]))).toBe("at −1.25, 40");
    expect(hintOf(group("closed", 0))).toBe("");
  });
  it("are grouped by feature, the whole drawing first, and by kind, nothing lost", () => {
    expect(byFeature(rules).map((g) => g.name)).toEqual(["Whole drawing", "Edge 1", "Circle 1"]);
    expect(byKind(rules).map((g) => g.id)).toEqual(["whole", "length", "radius", "layer", "clean"]);
    for (const groups of [byFeature(rules), byKind(rules)]) {
      expect(groups.flatMap((g) => g.requirements.map((r) => r.id)).sort()).toEqual([1, 2, 3, 4, 5]);
    }
  });

  it("call features as the key does", () => {
    const named = { ...rules, names: { e1: "top edge" } };
    expect(byFeature(named).map((g) => g.name)).toEqual(["Whole drawing", "Top edge", "Circle 1"]);
    expect(kept(named)).not.toHaveProperty("names");
  });

  it("count marks of what is on", () => {
    expect(marksOf(rules.requirements)).toBe(10);
  });

  it("go back to the server without what is derived", () => {
    expect(Object.keys(kept(rules).requirements[0] ?? {})).not.toContain("expected");
  });
});
