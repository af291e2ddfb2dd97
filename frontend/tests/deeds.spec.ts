// @vitest-environment node
import { describe, expect, it } from "vitest";
import { drawnIn, lasted, pauses } from "../src/board/deeds";

const deed = (minute: number, kind: "wrote" | "corrected" | "away" | "back" = "wrote", length = 1) => ({
  at: new Date(Date.UTC(2026, 9, 1, 9, minute)).toISOString(),
  kind,
  says: "",
  was: "",
  steps: [],
  length,
  splices: [],
});
const made = (acts: ReturnType<typeof deed>[]) => ({
  student: "",
  title: "",
  handed_in_at: "",
  of: acts.length,
  parts: 1,
  first: 0,
  document: {},
  acts,
});

describe("how a drawing was made", () => {
  it("is told without the pauses", () => {
    const acts = [deed(0), deed(2), deed(40, "corrected"), deed(41, "back"), deed(42, "wrote", 7)];
    expect(drawnIn(made(acts))).toBe("7 steps, drawn in 4 minutes in 2 sittings, 1 correction, 1 undone.");
    expect([...pauses(acts)]).toEqual([[2, "38 minutes"]]);
  });
  it("says of nothing that it is nothing", () => {
    expect(drawnIn(made([]))).toBe("Nothing was drawn on the board.");
    expect(drawnIn(made([deed(0)]))).toBe("1 step, drawn in less than a minute.");
  });
  it("says long times in hours and days", () => {
    expect([lasted(1), lasted(89), lasted(130), lasted(3 * 1440)]).toEqual([
      "1 minute",
      "89 minutes",
      "2 hours",
      "3 days",
    ]);
  });
});
