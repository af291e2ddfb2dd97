/** Sentences that are typed while nobody can judge them: kept in order, never put into what is being typed, judged later. */
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { effectScope, nextTick, shallowRef, type EffectScope } from "vue";
import { Refusal } from "../src/api/client";
import { Refused } from "../src/board/engine";
import type { Presence } from "../src/board/presence";
import type { KeptDocument, Edit } from "../src/board/types";
import { UnsentPlace, type Unfinished, type Waits } from "../src/board/unsent";
import type { BoardState } from "../src/board/useBoard";
import { useOutbox } from "../src/board/useOutbox";
import { useSentence } from "../src/board/useSentence";

const EMPTY: KeptDocument = { format: "even-mark/steps", version: 1, next: 1, lines: [] };
const AWAY = new Refusal(0, "no-connection", "The server cannot be reached.");
const alone: Presence = {
  hold: () => Promise.resolve(() => undefined),
  ifGone: async (_, work) => {
    await work();
    return true;
  },
};
const KINDS = ["circle ", "line "].map((begins) => ({ group: "Draw", says: begins, begins, words: "" }));

let scope: EffectScope;
let away = true;
/** Another page went on from the list. */
let parted = false;
const PARTED = new Refusal(409, "parted", "Changed in another tab.");
let drawn: string[];
let chosen = "";
const layers: string[] = [];

function opened(unfinished: Unfinished | null = null) {
  const outbox = useOutbox(
    {
      acts: (base, acts) => {
        if (away || parted) return Promise.reject(away ? AWAY : PARTED);
        return Promise.resolve({ version: base + acts.length });
      },
      part: () => Promise.reject(AWAY),
      found: () => Promise.resolve({ version: 9, document: EMPTY }),
    },
    new UnsentPlace(7, 3, alone),
    () => undefined,
  );
  const left = shallowRef<Unfinished | null>(null);
  const board = {
    outbox,
    rows: shallowRef([]),
    unfinished: left,
    ask: (call: string, args: { says?: string }) => {
      if (away) {
        outbox.retry.later();
        return Promise.reject(AWAY);
      }
      if (call === "offered") return Promise.resolve({ kinds: KINDS });
      if (call === "find") return Promise.resolve({ kinds: [] });
      const preview = { whole: true, pieces: [], gone: [], broken: "" };
      const read = { text: args.says ?? "", onward: "", readings: [], layer: "outline" };
      return Promise.resolve({
        ...read,
        whole: true,
        wants: [],
        answers: [],
        spans: [[0, 1, "kind"]],
        preview,
      });
    },
    act: (_: string, args: { says: string; layer: string }, sentence?: Waits) => {
      if (away) return Promise.reject(AWAY);
      if (parted) {
        outbox.took([{ at: 0, gone: [], come: [] }]);
        return outbox.flush().then(() => Promise.reject(PARTED));
      }
      if (args.says.includes("radios")) return Promise.reject(new Refused("There is no radios."));
      drawn.push(args.says);
      layers.push(args.layer);
      const splices: Edit[] = [{ at: drawn.length - 1, gone: [], come: [{ kind: "step", says: args.says }] }];
      outbox.took(splices, sentence);
      return Promise.resolve({ splices });
    },
  } as unknown as BoardState;
  const hold = { held: "", off: false, level: "gently" as const, grid: 0, hidden: [] };
  const sentence = useSentence(board, () => hold, { chosen: () => chosen, current: () => "last" });
  left.value = unfinished;
  return { sentence, outbox };
}
const open = (unfinished: Unfinished | null = null) => {
  const made = scope.run(() => opened(unfinished));
  if (!made) throw new Error("no scope");
  return made;
};
const passes = (ms: number) => vi.advanceTimersByTimeAsync(ms);

beforeEach(() => {
  vi.useFakeTimers();
  localStorage.clear();
  scope = effectScope();
  away = true;
  parted = false;
  drawn = [];
});
afterEach(() => {
  scope.stop();
  vi.useRealTimers();
});

/** Types as hands do: a letter at a time, with what the page does in between. */
async function type(s: ReturnType<typeof useSentence>, says: string): Promise<void> {
  for (const letter of says) {
    if (letter === "\n") void s.take();
    else s.write(s.text.value + letter);
    await passes(40);
  }
}

describe("typed briskly while nobody answers", () => {
  it("stays in order as typed, and nothing comes back into the line", async () => {
    const { sentence: s, outbox } = open();
    const all = Array.from({ length: 10 }, (_, n) => `circle ${10 * n}, 0; radius ${n + 1}`);
    await type(s, all.map((one) => `${one}\n`).join(""));
    expect(s.waits.value.map((w) => w.says)).toEqual(all);
    expect(s.text.value).toBe("");
    expect(s.refused.value).toBe("");
    await type(s, "line 0, ");
    away = false;
    await passes(40_000);
    expect(drawn).toEqual(all);
    expect(s.text.value).toBe("line 0, ");
    expect(s.waits.value).toEqual([]);
    expect(outbox.saving.value).toBe("saved");
  });
  it("an answer that is typed on at once is no press that ends its number", async () => {
    away = false;
    const { sentence: s } = open();
    const typed = (says: string) => s.type(says, says.length);
    typed("circle 0, 0; ");
    await passes(40);
    void s.choose("circle 0, 0; radius ");
    typed("circle 0, 0; radius 2"); // before the answer was read
    await passes(40);
    typed(`${s.text.value}4`);
    expect(s.text.value).toBe("circle 0, 0; radius 24");
  });
  it("sets aside what is refused, goes on with the rest, and leaves the line alone", async () => {
    const { sentence: s } = open();
    await type(s, "circle 0, 0; radios 4\ncircle 9, 0; radius 4\n");
    away = false;
    await passes(40_000);
    await type(s, "line ");
    expect(drawn).toEqual(["circle 9, 0; radius 4"]);
    expect(s.notTaken.value).toEqual([{ says: "circle 0, 0; radios 4", why: "There is no radios." }]);
    expect(s.text.value).toBe("line ");
  });
  it("says calmly that it cannot be read, and reads it by itself later", async () => {
    const { sentence: s } = open();
    await type(s, "circle 0, 0");
    expect(s.unread.value).toBe(true);
    expect(s.refused.value).toBe("");
    away = false;
    await passes(40_000);
    expect(s.unread.value).toBe(false);
    expect(s.readOf.value).toBe("circle 0, 0");
  });
  it("is drawn on the layer that was chosen by then, else on the one drawn on last when it is judged", async () => {
    const { sentence: s } = open();
    layers.length = 0;
    await type(s, "circle 0, 0; radius 1\n");
    chosen = "hidden";
    await type(s, "circle 9, 0; radius 1\n");
    chosen = "";
    away = false;
    await passes(40_000);
    expect(layers).toEqual(["last", "hidden"]);
  });
  it("waits for the choice where two lists have gone on, and is not refused", async () => {
    away = false;
    parted = true;
    const { sentence: s, outbox } = open();
    await type(s, "circle 0, 0; radius 1\n");
    expect(outbox.parted.value).not.toBe(null);
    expect(s.waits.value.map((w) => w.says)).toEqual(["circle 0, 0; radius 1"]);
    expect(s.notTaken.value).toEqual([]);
  });
  it("is taken back one by one, the last into the line", async () => {
    const { sentence: s } = open();
    await type(s, "circle 0, 0; radius 1\ncircle 1, 0; radius 2\n");
    expect(s.takeBack()).toBe(true);
    expect(s.text.value).toBe("circle 1, 0; radius 2");
    expect(s.takeBack()).toBe(true);
    expect(s.takeBack()).toBe(false);
    expect(s.text.value).toBe("circle 1, 0; radius 2");
  });
});

describe("what is known to be refused as it stands", () => {
  it("stays in the line, and is set aside where it is typed over", async () => {
    away = false;
    const { sentence: s } = open();
    await type(s, "circle 0, 0; radius -4");
    expect(s.isCurrent()).toBe(true);
    s.refuse();
    expect(s.text.value).toBe("circle 0, 0; radius -4");
    s.typedOver();
    s.write("line 0");
    expect(s.notTaken.value.map((n) => n.says)).toEqual(["circle 0, 0; radius -4"]);
  });
  it("is not known while something else is judged", async () => {
    const { sentence: s } = open();
    await type(s, "circle 0, 0; radius 1\nerase everything");
    expect(s.isCurrent()).toBe(false);
  });
});

describe("a sentence that was not finished", () => {
  it("stands in the line again", async () => {
    away = false;
    const { sentence: s } = open({ says: "circle 3, 4; rad", place: null });
    await passes(1);
    await nextTick();
    expect(s.text.value).toBe("circle 3, 4; rad");
  });
  it("is kept while it is typed", async () => {
    away = false;
    const { sentence: s } = open();
    s.write("line 0");
    await passes(1);
    expect(s.text.value).toBe("line 0");
    const stored = Object.keys(localStorage).map((k) => localStorage.getItem(k));
    expect(stored.join()).toContain("line 0");
  });
});
