/** An act that the server will never take is left out of a queue; what was done behind it stays. */
import { describe, expect, it } from "vitest";
import { digestOf } from "../src/board/digest";
import { spliced } from "../src/board/edits";
import type { Edit, KeptDocument, KeptLine } from "../src/board/types";
import { beforeAll, between, without, wordsOf } from "../src/board/without";

const step = (id: number, says = `s${id}`): KeptLine => ({ kind: "step", id, says });
const list = (...ids: number[]): KeptDocument => ({
  format: "even-mark/steps",
  version: 1,
  next: 99,
  lines: ids.map((n) => step(n)),
});
const put = (at: number, ...come: KeptLine[]): Edit[] => [{ at, gone: [], come }];
const after = (start: KeptDocument, acts: readonly Edit[][]) => acts.reduce((d, a) => spliced(d, a), start);
const ids = (d: KeptDocument) => d.lines.map((l) => l.id);

describe("a queue without its first act", () => {
  it("keeps what was put in behind it and before it", () => {
    const acts = without(list(1, 2), put(1, step(7)), [put(2, step(8)), put(0, step(9)), put(5, step(10))]);
    expect(ids(after(list(1, 2), acts))).toEqual([9, 1, 8, 2, 10]);
  });
  it("is nothing where the act was taken back", () => {
    expect(without(list(1), put(1, step(7)), [[{ at: 1, gone: [step(7)], come: [] }]])).toEqual([]);
    const gone: Edit[] = [{ at: 0, gone: [step(1)], come: [] }];
    expect(without(list(1, 2), gone, [put(0, step(1))])).toEqual([]);
  });
  it("has the step as it was put right", () => {
    const right: Edit[] = [{ at: 1, gone: [step(7)], come: [step(7, "better")] }];
    expect(after(list(1), without(list(1), put(1, step(7)), [right])).lines[1]).toEqual(step(7, "better"));
    const wrong: Edit[] = [{ at: 0, gone: [step(1)], come: [step(1, "bad")] }];
    const again: Edit[] = [{ at: 0, gone: [step(1, "bad")], come: [step(1, "good")] }];
    expect(after(list(1), without(list(1), wrong, [again])).lines).toEqual([step(1, "good")]);
    const back: Edit[] = [{ at: 0, gone: [step(1, "bad")], come: [step(1)] }];
    expect(without(list(1), wrong, [back])).toEqual([]);
  });
  it("holds for whatever was done", () => {
    let seed = 7;
    const random = (below: number) => (seed = (seed * 48271) % 2147483647) % below;
    for (let round = 0; round < 400; round++) {
      const start = list(1, 2, 3, 4);
      let next = 10;
      let now = start;
      const acts: Edit[][] = [];
      for (let n = 0; n < 6; n++) {
        const at = random(now.lines.length + 1);
        const gone = now.lines.slice(at, at + random(3));
        const come = Array.from({ length: random(3) }, () => step(next++));
        const same = gone[0];
        if (same && random(2)) come.push({ ...same, says: `${same.says ?? ""}'` });
        const act = [{ at, gone, come }];
        acts.push(act);
        now = spliced(now, act);
      }
      const [first = [], ...later] = acts;
      const left = without(start, first, later);
      // every edit is for the lines that stand there
      let list_ = start;
      for (const act of left)
        for (const s of act) {
          expect(list_.lines.slice(s.at, s.at + s.gone.length)).toEqual(s.gone);
          list_ = spliced(list_, [s]);
        }
      expect(new Set(ids(list_)).size).toBe(list_.lines.length);
      // what came later and stands at the end stands here too
      const came = new Set(later.flatMap((a) => a.flatMap((s) => s.come.map((l) => l.id))));
      for (const line of now.lines) if (came.has(line.id)) expect(list_.lines).toContainEqual(line);
      // and what only the first act brought does not
      const brought = first.flatMap((s) => s.come.map((l) => l.id)).filter((id) => (id ?? 0) >= 10);
      for (const id of brought) if (!came.has(id)) expect(ids(list_)).not.toContain(id);
    }
  });
});

describe("lists", () => {
  it("are told apart by the one act between them", () => {
    expect(between(list(1, 2, 3), list(1, 2, 3))).toEqual([]);
    expect(between(list(1, 2, 3), list(1, 3))).toEqual([[{ at: 1, gone: [step(2)], come: [] }]]);
    expect(between(list(1, 1), list(1))).toEqual([[{ at: 1, gone: [step(1)], come: [] }]]);
  });
  it("are found again from what was done to them", () => {
    const acts = [put(1, step(7)), put(0, step(8))];
    expect(beforeAll(after(list(1, 2), acts), acts).lines).toEqual(list(1, 2).lines);
  });
  it("have the digest that the server works out", () => {
    const document: KeptDocument = {
      ...list(1),
      lines: [
        { kind: "unit", says: "mm" },
        { kind: "value", name: "größe", says: "5 😀" },
        { kind: "step", id: 12, says: 'text "a"; 0, 0', after: " # so" },
        { kind: "blank" },
      ],
    };
    // tests/services/test_once_and_room.py has the same
    expect(digestOf(document)).toBe("62a11136dd8950235842de7bceda59d0a826d2803977221b60b135acae385293");
  });
  it("say in words what was done", () => {
    expect(wordsOf(put(0, step(1), { kind: "value", name: "a", says: "5" }))).toEqual(["s1", "a = 5"]);
    expect(wordsOf([{ at: 0, gone: [step(1)], come: [] }])).toEqual(["s1"]);
  });
});
