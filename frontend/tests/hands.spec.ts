/** Hands on the board: what a beginning takes of what is chosen, and where lettering lies. */
import { describe, expect, it } from "vitest";
import { letteredAt, liesOn } from "../src/board/lettered";
import type { Piece, SceneText, Wish, Writing } from "../src/board/types";
import { takes } from "../src/board/useNaming";
import { apart } from "../src/board/pointing";
import { wantedSays } from "../src/board/wanted";

const wish = (kind: string, ...kinds: string[]): Wish => ({ kind, says: "", kinds });
describe("what is chosen", () => {
  it.each([
    ["move", [wish("things", "edge", "circle")], { many: true, kinds: ["edge", "circle"] }],
    ["line", [wish("things", "edge"), wish("point"), wish("word")], null],
    ["circle", [wish("point")], null],
    ["size radius", [wish("feature", "arc", "circle")], { many: false, kinds: ["arc", "circle"] }],
    ["size", [wish("feature", "edge"), wish("point")], null],
  ] as const)("is taken by %s", (_, wants, taken) => expect(takes(wants)).toEqual(taken));
});

const text = (more: Partial<SceneText>): SceneText => ({
  at: [10, -20],
  wording: "PLATE",
  height: 4,
  turn: 0,
  anchor: "left baseline",
  ...more,
});
describe("lettering", () => {
  it.each([
    [{}, [12, -22], true],
    [{}, [8, -22], false],
    [{}, [12, -27], false],
    [{}, [12, -16], false],
    [{ anchor: "centre middle" }, [5, -20], true],
    [{ anchor: "right top" }, [5, -18], true],
    [{ turn: 90 }, [9, -24], true],
    [{ turn: 90 }, [14, -22], false],
    [{ wording: "A\nLONGER" }, [12, -16], true],
  ] as const)("%j at %j: %s", (more, at, lies) =>
    expect(liesOn(text(more as Partial<SceneText>), [at[0], at[1]])).toBe(lies),
  );
  it("is that of the piece drawn last", () => {
    const piece = (id: string) => ({ id, texts: [text({})] }) as unknown as Piece;
    expect(letteredAt([piece("a"), piece("b")], [12, -22])?.id).toBe("b");
    expect(letteredAt([piece("a")], [90, 0])).toBeUndefined();
  });
});

describe("a decimal comma", () => {
  it("sets coordinates of a step apart that is written over, and no wording", () => {
    expect(apart("line 0,0; 10,5")).toEqual({ says: "line 0, 0; 10, 5", at: undefined });
    expect(apart('text "3,5"; 1,2; height 5')).toEqual({ says: 'text "3,5"; 1, 2; height 5', at: undefined });
    expect(apart("line 0, 0; 10, 5").says).toBe("line 0, 0; 10, 5");
  });
  it("keeps what is meant alone where it is", () => {
    const { says, at } = apart("line 0,0; 10,5", [10, 12]);
    expect(at && says.slice(...at)).toBe("10");
    const last = apart("line 0,0; 10,5", [13, 14]);
    expect(last.at && last.says.slice(...last.at)).toBe("5");
  });
});

describe("what comes next", () => {
  const wanted = (needs: string, wants: Wish[], follows: Wish[] = []) =>
    wantedSays({ needs, wants, follows } as unknown as Writing);
  const point: Wish = { kind: "point", says: "", kinds: [] };
  const number: Wish = { kind: "number", says: "", kinds: [] };
  it("is said for the slot that follows, where one does", () => {
    expect(wanted("a point", [point])).toContain("35, 20");
    expect(wanted("a number", [point], [number])).toContain("12.5");
    expect(wanted("how many: a number", [number])).toContain("choose it");
  });
});
