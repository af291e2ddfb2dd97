/** What waits on a board until the server has it: nothing is lost, nothing is done twice, nobody is flooded. */
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { effectScope, type EffectScope } from "vue";
import { Refusal } from "../src/api/client";
import type { Presence } from "../src/board/presence";
import { dropUnsent, sendLeft, unsentIn, UnsentPlace } from "../src/board/unsent";
import type { Kept, Splice } from "../src/board/types";
import { useOutbox, type Post } from "../src/board/useOutbox";

const EMPTY: Kept = { format: "even-mark/steps", version: 1, next: 1, lines: [] };
const AWAY = new Refusal(0, "no-connection", "The server cannot be reached.");
const act = (n: number, at = n - 1): Splice[] => [
  { at, gone: [], come: [{ kind: "step", id: n, says: `circle ${n}, 0; radius 1` }] },
];
const says = (document: Kept) => document.lines.map((l) => l.id);

/** The pages of one browser. */
class Pages implements Presence {
  held = new Set<string>();
  hold = (name: string) => {
    this.held.add(name);
    return Promise.resolve(() => void this.held.delete(name));
  };
  ifGone = async (name: string, work: () => void | Promise<void>) => {
    if (this.held.has(name)) return false;
    await work();
    return true;
  };
}

/** A server that keeps one board as the real one does, and can be away. */
class Server {
  acts: Splice[][] = [];
  posts = 0;
  away: Error | null = null;
  get document(): Kept {
    return { ...EMPTY, lines: this.acts.flatMap((a) => a.flatMap((s) => s.come)) };
  }
  readonly post: Post = {
    acts: async (base, acts) => {
      this.posts++;
      await Promise.resolve();
      if (this.away) throw this.away;
      let known = 0;
      while (known < acts.length && JSON.stringify(this.acts[base + known]) === JSON.stringify(acts[known]))
        known++;
      if (base + known !== this.acts.length) throw new Refusal(409, "parted", "Changed in another tab.");
      this.acts.push(...acts.slice(known));
      return { version: this.acts.length };
    },
    part: async (base) => {
      await Promise.resolve();
      if (base !== this.acts.length) throw new Refusal(409, "parted", "Changed once more.");
      this.acts.push(act(99));
      return { version: this.acts.length };
    },
    found: () => Promise.resolve({ version: this.acts.length, document: this.document }),
  };
}

let scope: EffectScope;
let server: Server;
let pages: Pages;
function page(name: string, person = 7, within = scope) {
  const box = within.run(() =>
    useOutbox(server.post, new UnsentPlace(person, 3, pages, name), () => undefined),
  );
  if (!box) throw new Error("no scope");
  box.opened({ version: server.acts.length, document: server.document });
  void box.live();
  return box;
}
const passes = (ms: number) => vi.advanceTimersByTimeAsync(ms);

beforeEach(() => {
  vi.useFakeTimers();
  vi.spyOn(Math, "random").mockReturnValue(0.5);
  localStorage.clear();
  scope = effectScope();
  server = new Server();
  pages = new Pages();
});
afterEach(() => {
  scope.stop();
  vi.restoreAllMocks();
  vi.useRealTimers();
});

describe("while there is no connection", () => {
  it("asks seldom, however much is done, and sends all of it in order when it is back", async () => {
    const box = page("a");
    server.away = AWAY;
    for (let n = 1; n <= 50; n++) box.took(act(n));
    await passes(60_000);
    expect(server.posts).toBeLessThan(8);
    expect(box.saving.value).toBe("waiting");
    server.away = null;
    await passes(31_000);
    expect(server.acts).toHaveLength(50);
    expect(says(box.document())).toEqual(server.document.lines.map((l) => l.id));
    expect(box.saving.value).toBe("saved");
    expect(localStorage).toHaveLength(0);
  });
  it("tries at once when the browser is connected again", async () => {
    const box = page("a");
    server.away = AWAY;
    box.took(act(1));
    await passes(20_000);
    server.away = null;
    window.dispatchEvent(new Event("online"));
    await passes(1);
    expect(server.acts).toHaveLength(1);
  });
  it("ends with the page", async () => {
    const box = page("a");
    server.away = AWAY;
    box.took(act(1));
    await passes(5000);
    scope.stop();
    await passes(1);
    const posts = server.posts;
    await passes(300_000);
    expect(server.posts).toBe(posts);
    expect(unsentIn(7)).toEqual([{ board: 3, count: 1 }]);
  });
  it("goes on although the clock is set back", async () => {
    const box = page("a");
    server.away = AWAY;
    box.took(act(1));
    await passes(10);
    vi.setSystemTime(new Date("2001-01-01"));
    server.away = null;
    await passes(31_000);
    expect(server.acts).toHaveLength(1);
  });
  it("waits as long as a crowded server asks for", async () => {
    const box = page("a");
    server.away = new Refusal(503, "crowded", "Many at once.", 20);
    box.took(act(1));
    await passes(19_000);
    expect(server.posts).toBe(1);
  });
});

describe("what the server will not take", () => {
  it("is said and not asked of it again by itself", async () => {
    const box = page("a");
    server.away = new Refusal(422, "unusable", "The drawing is too large to be kept.");
    box.took(act(1));
    await passes(120_000);
    expect(server.posts).toBe(1);
    expect(box.saving.value).toBe("refused");
    expect(box.unsaved.value).toContain("too large");
    server.away = null;
    box.took(act(2));
    await passes(1);
    expect(server.acts).toHaveLength(2);
  });
  it("is kept when the session has ended, and sent after it", async () => {
    const box = page("a");
    server.away = new Refusal(401, "not-signed-in", "Sign in again.");
    box.took(act(1));
    await passes(10);
    expect(unsentIn(7)).toEqual([{ board: 3, count: 1 }]);
    server.away = null;
    await passes(31_000);
    expect(server.acts).toHaveLength(1);
  });
});

describe("two pages of one browser", () => {
  it("keep what is theirs, and neither deletes the other's", async () => {
    const [a, b] = [page("a"), page("b")];
    server.away = AWAY;
    a.took(act(1));
    a.took(act(2));
    b.took(act(3, 0));
    await passes(10);
    expect(unsentIn(7)).toEqual([{ board: 3, count: 3 }]);
    server.away = null;
    await a.flush();
    expect(unsentIn(7)).toEqual([{ board: 3, count: 1 }]);
    await b.flush();
    expect(b.parted.value?.mine.lines.map((l) => l.id)).toEqual([3]);
    expect(b.parted.value?.kept.lines.map((l) => l.id)).toEqual([1, 2]);
  });
  it("do not take from a page that lives; what gone ones left is taken on, one after the other", async () => {
    const gone = effectScope();
    server.away = AWAY;
    page("a", 7, gone).took(act(1));
    page("b", 7, gone).took(act(2, 0));
    gone.stop();
    page("lives").took(act(3, 0));
    await passes(10);
    server.away = null;
    const box = page("new");
    expect((await box.takeOver()).acts).toBe(true);
    expect(server.acts).toHaveLength(1);
    expect((await box.takeOver()).acts).toBe(true);
    expect(says(box.parted.value?.mine ?? EMPTY)).toEqual([2]);
    expect(await box.choose("mine")).toBe(true);
    expect((await box.takeOver()).acts).toBe(false);
    expect(unsentIn(7)).toEqual([{ board: 3, count: 1 }]);
  });
  it("do not do twice what went through although its answer was lost", async () => {
    const gone = effectScope();
    const box = page("a", 7, gone);
    server.away = AWAY;
    box.took(act(1));
    await passes(10);
    gone.stop();
    await passes(10);
    server.acts.push(act(1)); // it had come through
    server.away = null;
    const next = page("b");
    await next.takeOver();
    expect(server.acts).toHaveLength(1);
    expect(next.saving.value).toBe("saved");
  });
  it("takes on what was kept before it was kept by page", async () => {
    localStorage.setItem(
      "even-mark board 3 waits",
      JSON.stringify({ base: 0, acts: [act(1)], document: { ...EMPTY, lines: act(1)[0]?.come } }),
    );
    const box = page("a");
    await box.takeOver();
    expect(server.acts).toHaveLength(1);
    expect(localStorage).toHaveLength(0);
  });
});

describe("two lists", () => {
  it("are shown again where the other one has gone on meanwhile", async () => {
    const box = page("a");
    server.acts.push(act(5));
    box.took(act(1));
    await passes(1);
    expect(box.parted.value?.base).toBe(1);
    server.acts.push(act(6));
    expect(await box.choose("mine")).toBe(false);
    expect(box.parted.value?.base).toBe(2);
    expect(await box.choose("mine")).toBe(true);
    expect(box.parted.value).toBe(null);
    expect(box.saving.value).toBe("saved");
  });
  it("stay where the choice cannot be sent", async () => {
    const box = page("a");
    server.acts.push(act(5));
    box.took(act(1));
    await passes(1);
    vi.spyOn(server.post, "part").mockRejectedValue(AWAY);
    await expect(box.choose("kept")).rejects.toThrow();
    expect(box.parted.value).not.toBe(null);
    expect(unsentIn(7)).toEqual([{ board: 3, count: 1 }]);
  });
});

describe("what this browser keeps", () => {
  it("is said to be lost with the page where there is no room", async () => {
    const box = page("a");
    server.away = AWAY;
    vi.spyOn(Storage.prototype, "setItem").mockImplementation(() => {
      throw new DOMException("full", "QuotaExceededError");
    });
    box.took(act(1));
    await passes(10);
    expect(box.keeps.value).toBe(false);
    vi.restoreAllMocks();
    box.took(act(2));
    await passes(10);
    expect(box.keeps.value).toBe(true);
  });
  it("is not lost where there is no room for both while it is taken on", async () => {
    const gone = effectScope();
    server.away = AWAY;
    page("a", 7, gone).took(act(1));
    await passes(10);
    gone.stop();
    vi.spyOn(Storage.prototype, "setItem").mockImplementation(() => {
      throw new DOMException("full", "QuotaExceededError");
    });
    const box = page("b");
    await box.takeOver();
    vi.restoreAllMocks();
    expect(unsentIn(7).length + box.waiting()).toBeGreaterThan(0);
  });
  it("is one person's alone, and goes when that person signs out", async () => {
    server.away = AWAY;
    page("a", 7).took(act(1));
    await passes(10);
    scope.stop();
    scope = effectScope();
    const other = page("b", 8);
    expect((await other.takeOver()).acts).toBe(false);
    expect(unsentIn(8)).toEqual([]);
    dropUnsent(7);
    expect(localStorage).toHaveLength(0);
  });
  it("is sent on signing out where nothing has to be chosen", async () => {
    server.away = AWAY;
    page("a").took(act(1));
    await passes(10);
    scope.stop();
    server.away = null;
    await sendLeft(7, (_, base, acts) => server.post.acts(base, acts), pages);
    expect(server.acts).toHaveLength(1);
    expect(unsentIn(7)).toEqual([]);
  });
  it("holds sentences nobody has judged, those refused, and the one being written", async () => {
    const gone = effectScope();
    const box = page("a", 7, gone);
    const one = { says: "circle 0, 0; radius 4", place: null, layer: "" };
    const two = { says: "circle 9, 0; radios 4", place: null, layer: "" };
    box.wait(one);
    box.wait(two);
    box.refuse(two, "There is no radios.");
    box.isWriting({ says: "line 0,", place: null });
    gone.stop();
    await passes(1);
    const next = page("b");
    expect((await next.takeOver()).writing).toEqual({ says: "line 0,", place: null });
    expect(next.sentences.value).toEqual([one]);
    expect(next.refused.value).toEqual([{ says: two.says, why: "There is no radios." }]);
    next.took(act(1), next.sentences.value[0]);
    next.isWriting(null);
    next.forget(next.refused.value[0] ?? { says: "", why: "" });
    await passes(1);
    expect(localStorage).toHaveLength(0);
  });
});

describe("a very long list of acts", () => {
  it("goes in pieces that the server takes", async () => {
    const box = page("a");
    server.away = AWAY;
    const wide = "x".repeat(400_000);
    for (let n = 1; n <= 8; n++)
      box.took([{ at: n - 1, gone: [], come: [{ kind: "remark", id: n, says: wide }] }]);
    await passes(10);
    server.away = null;
    const sizes: number[] = [];
    vi.spyOn(server.post, "acts").mockImplementation((base, acts) => {
      sizes.push(JSON.stringify(acts).length);
      return Promise.resolve({ version: base + acts.length });
    });
    await box.flush();
    expect(Math.max(...sizes)).toBeLessThan(2_000_000);
    expect(box.saving.value).toBe("saved");
  });
});
