/** The line of the sentence: what is typed behind a press, and what is taken back. */
import { describe, expect, it } from "vitest";
import { typedBehind, useLine } from "../src/board/useLine";

describe("typed behind what was pressed", () => {
  const list = { text: "move circle 1", onward: "move circle 1; " };
  const slot = { text: "chain 0, 0; right 120; ", onward: "" };
  it.each([
    [list, "5", "move circle 1; 5"],
    [list, "-5", "move circle 1; -5"],
    [list, "by", "move circle 1 by"],
    [list, " by", "move circle 1 by"],
    [list, ";", "move circle 1;"],
    [slot, "70", "chain 0, 0; right 120; 70"],
    [slot, "up", "chain 0, 0; right 120; up"],
  ])("%j and %s", (pressed, typed, text) => expect(typedBehind(pressed, pressed.text, typed)).toBe(text));
  it("is as it is typed behind anything else", () => {
    expect(typedBehind(list, "line 1", "2")).toBe("line 12");
    expect(typedBehind(null, "right 1", "2")).toBe("right 12");
  });
});

describe("taken back within a sentence", () => {
  const type = (line: ReturnType<typeof useLine>, says: string) => {
    for (const letter of says) line.type(line.text.value + letter, line.text.value.length + 1);
  };
  it("never goes to what stands there already", () => {
    const line = useLine();
    type(line, "chain");
    line.set("chain 0, 0; ");
    line.separate("chain 0, 0; up 20"); // typed while something pressed was worked out
    line.set("chain 0, 0; ");
    line.separate("chain 0, 0; up 20");
    line.set("chain 0, 0; up 20");
    const shown: string[] = [];
    while (line.back()) shown.push(line.text.value);
    expect(shown).toEqual(shown.filter((says, n) => says !== shown[n - 1]));
    expect(shown[0]).not.toBe("chain 0, 0; up 20");
  });
  it("goes by the press and by the word, and forward the same way", () => {
    const line = useLine();
    type(line, "chain");
    line.set("chain 0, 0; ");
    line.press("");
    type(line, "120");
    line.set("chain 0, 0; right 120; ");
    line.press("");
    const shown: string[] = [];
    while (line.back()) shown.push(line.text.value);
    expect(shown).toEqual(["chain 0, 0; 120", "chain 0, 0; ", "chain", ""]);
    while (line.forward()) shown.push(line.text.value);
    expect(shown.slice(4)).toEqual(["chain", "chain 0, 0; ", "chain 0, 0; 120", "chain 0, 0; right 120; "]);
  });
  it("goes by the word where several are typed", () => {
    const line = useLine();
    type(line, "line 0, 0");
    line.back();
    expect(line.text.value).toBe("line 0,");
    line.back();
    expect(line.text.value).toBe("line");
    type(line, "s");
    expect(line.canGoForward.value).toBe(false);
  });
  it("begins anew with a new sentence", () => {
    const line = useLine();
    type(line, "line 0");
    line.clear();
    expect([line.back(), line.forward(), line.text.value]).toEqual([false, false, ""]);
  });
});
