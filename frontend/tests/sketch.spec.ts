// @vitest-environment node
import { describe, expect, it } from "vitest";
import { drawnMark, type SketchMark } from "../src/sketch";
import type { Point } from "../src/view";

const toScreen = (p: Point): Point => [p[0] * 2 + 100, p[1] * 2 + 50];
const mark = (values: Partial<SketchMark>): SketchMark => ({
  as: "span",
  tone: "drawn",
  a: [0, 0],
  b: [40, 0],
  says: "40 mm",
  ...values,
});

describe("marks of a sketch on the screen", () => {
  it("sets a span off its edge, away from the middle of the drawing, asked and drawn apart", () => {
    const middle: Point = [140, 90];
    const drawn = drawnMark(mark({}), toScreen, 2, middle);
    const asked = drawnMark(mark({ tone: "asked" }), toScreen, 2, middle);
    expect(drawn.headed).toEqual(["M140.00 24.00L100.00 24.00", "M140.00 24.00L180.00 24.00"]);
    expect(asked.at[1]).toBeLessThan(drawn.at[1]);
    expect(drawn.says).toBe("40 mm");
  });
  it("draws nothing of a span too short to be seen", () => {
    expect(drawnMark(mark({ b: [0.1, 0] }), toScreen, 2, [0, 0]).headed).toEqual([]);
  });
  it("points an arrow back to where a piece belongs", () => {
    expect(drawnMark(mark({ as: "back", says: "" }), toScreen, 2, [0, 0]).headed).toEqual([
      "M100.00 50.00L180.00 50.00",
    ]);
  });
  it("reaches from the centre to the rim, angles counter-clockwise with y down", () => {
    const m = drawnMark(mark({ as: "reach", b: [10, 90] }), toScreen, 2, [0, 0]);
    expect(m.headed[0]).toBe("M100.00 50.00L100.00 30.00");
    expect(drawnMark(mark({ as: "reach", b: [10, 180] }), toScreen, 2, [0, 0]).anchor).toBe("end");
  });
  it("turns from one direction to another the short or the long way as it is told", () => {
    expect(drawnMark(mark({ as: "turn", b: [0, 30] }), toScreen, 2, [0, 0]).headed[0]).toContain(" 0 0 0 ");
    expect(drawnMark(mark({ as: "turn", b: [0, 200] }), toScreen, 2, [0, 0]).headed[0]).toContain(" 0 1 0 ");
  });
});
