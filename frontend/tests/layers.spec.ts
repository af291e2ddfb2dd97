// @vitest-environment node
import { describe, expect, it } from "vitest";
import { besideEachOther } from "../src/layers";
import { grouped, progressOf, type BatchFile } from "../src/batches";

const layer = (name: string, more = {}) => ({
  name,
  color: 7,
  line_type: "continuous",
  weight: 0.5,
  shown: true,
  features: 3,
  ...more,
});

describe("layers beside each other", () => {
  it("pairs namesakes whatever the letter case, and says what differs", () => {
    const [pair] = besideEachOther(
      [layer("outline")],
      [layer("OUTLINE", { color: 1, line_type: "dashed", weight: 0.25 })],
    );
    expect(pair?.differs).toEqual(["letter case", "line type", "colour", "weight"]);
  });
  it("tells what is missing and what nobody asked for", () => {
    const pairs = besideEachOther([layer("outline"), layer("empty", { features: 0 })], [layer("0")]);
    expect(pairs.map((p) => [p.key, p.differs])).toEqual([
      ["outline", ["empty"]],
      ["0", ["name"]],
    ]);
  });
});

describe("files of a hand-in", () => {
  const file = (state: BatchFile["state"], attempt: number | null = null) =>
    ({ state, attempt_id: attempt, path: "a.dxf" }) as BatchFile;

  it("stand in groups, what is doubtful first", () => {
    const groups = grouped([file("marked", 1), file("ready"), file("asked"), file("unusable")]);
    expect(groups.map((g) => g.id)).toEqual(["asked", "ready", "unusable", "handed-in"]);
  });
  it("tell how far the workers are", () => {
    expect(progressOf([file("reading"), file("ready")])).toEqual({ done: 1, of: 2, word: "read" });
    expect(progressOf([file("waiting", 1), file("failed", 2), file("asked")])).toEqual({
      done: 1,
      of: 2,
      word: "marked",
    });
    expect(progressOf([file("marked", 1)])).toBeNull();
  });
});
