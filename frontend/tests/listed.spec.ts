/** The list: parts under headings, what is looked for, broken steps, names that light what they mean. */
import { describe, expect, it } from "vitest";
import { headingOf, listed, matches, nextBroken, piecesNamed } from "../src/board/listed";
import type { Row } from "../src/board/types";

let line = 0;
const step = (number: number, says: string, more: Partial<Row> = {}): Row => ({
  key: `s${number}`,
  kind: "step",
  line: line++,
  id: number,
  number,
  says,
  ...more,
});
const mark = (says: string): Row => ({ key: `bookmark ${says}`, kind: "bookmark", line: line++, says });
const ROWS = [
  step(1, "rectangle 0, 0; 80, 50", { layer: "outline" }),
  mark("the holes"),
  step(2, "circle 10, 10; radius 3", { layer: "holes" }),
  step(3, "circle 70, 10; radius 3", { layer: "holes", broken: "No." }),
  mark("sizes"),
  step(4, "size radius circle 2; at 20, 20", { layer: "dimension" }),
];
const keys = (folded: string[], find = "") => listed(ROWS, new Set(folded), find).map((l) => l.row.key);

describe("the list", () => {
  it("folds what stands under a heading, which says how much that is", () => {
    expect(keys([])).toEqual(ROWS.map((r) => r.key));
    expect(keys(["bookmark the holes"])).toEqual(["s1", "bookmark the holes", "bookmark sizes", "s4"]);
    const heading = listed(ROWS, new Set(["bookmark the holes"]), "")[1];
    expect([heading?.steps, heading?.broken]).toEqual([2, 1]);
    expect(headingOf(ROWS, "s3")).toBe("bookmark the holes");
    expect(headingOf(ROWS, "s1")).toBeNull();
  });
  it("finds steps by word, number and layer, folded or not", () => {
    expect(keys(["bookmark the holes"], "circle 70")).toEqual(["s3"]);
    expect(keys([], "holes")).toEqual(["bookmark the holes", "s2", "s3"]);
    expect(keys([], "4")).toEqual(["s4"]);
    expect(keys([], "nothing of that")).toEqual([]);
    expect(matches(step(7, "line 0, 0; 7, 7"), "LINE 7")).toBe(true);
  });
  it("goes from one broken step to the next", () => {
    expect(nextBroken(ROWS, null)?.number).toBe(3);
    expect(nextBroken(ROWS, 3)?.number).toBe(3);
    expect(nextBroken([step(1, "line")], null)).toBeUndefined();
  });
});

describe("a name", () => {
  const ids = ["edge 1.1", "edge 1.2", "circle 2.1", "edge 11.1", "arc 3.1"];
  it.each([
    [{ kind: "edge", step: 1, part: 2 }, ["edge 1.2"]],
    [{ kind: "edge", step: 1, part: null }, ["edge 1.1", "edge 1.2"]],
    [{ kind: "step", step: 1, part: null }, ["edge 1.1", "edge 1.2"]],
    [{ kind: "arc", step: 2, part: null }, ["circle 2.1"]],
    [{ kind: "circle", step: 9, part: null }, []],
  ])("%j means its pieces", (name, pieces) => expect(piecesNamed(ids, name)).toEqual(pieces));
});
