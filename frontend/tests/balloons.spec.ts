// @vitest-environment node
import { describe, expect, it } from "vitest";
import { placeBalloons } from "../src/balloons";

const at = (x: number, y: number) => [x, y] as const;

describe("balloons", () => {
  it("stand apart from each other, even over one point", () => {
    const placed = placeBalloons(
      [1, 2, 3, 4, 5].map((id) => ({ id, at: at(200, 150) })),
      at(300, 200),
      800,
      600,
    );
    placed.forEach((p, i) =>
      placed.slice(i + 1).forEach((q) => {
        expect(Math.hypot(p.stand[0] - q.stand[0], p.stand[1] - q.stand[1])).toBeGreaterThan(28);
      }),
    );
  });

  it("stay on the sheet", () => {
    const [only] = placeBalloons([{ id: 1, at: at(795, 2) }], at(400, 300), 800, 600);
    expect(only?.stand[0]).toBeLessThanOrEqual(782);
    expect(only?.stand[1]).toBeGreaterThanOrEqual(18);
  });
});
