// @vitest-environment node
import { describe, expect, it } from "vitest";
import { lensFor } from "../src/lens";

describe("the lens", () => {
  const gap = { kind: "joined", verdict: "missed", deviation: 0.02 };
  it("makes a gap of 0.02 wide enough to see", () => {
    const lens = lensFor(gap, [10, 20], 100, "mm");
    expect(lens?.across).toBeCloseTo(0.12);
    expect(lens?.says).toBe("0.020 mm apart");
  });
  it("stays away where there is nothing small to see", () => {
    expect(lensFor({ ...gap, deviation: 30 }, [10, 20], 100, "mm")).toBeNull();
    expect(lensFor({ ...gap, verdict: "met" }, [10, 20], 100, "mm")).toBeNull();
    expect(lensFor({ kind: "layer", verdict: "missed", deviation: null }, [10, 20], 100, "mm")).toBeNull();
    expect(lensFor({ ...gap, kind: "length" }, [10, 20], 100, "mm")).toBeNull();
    expect(lensFor(gap, null, 100, "mm")).toBeNull();
  });
});
