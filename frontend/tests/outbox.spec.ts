/** What waits on a board until the server has it: nothing is lost, nothing is done twice, nobody is flooded. */
import { describe, expect, it, vi } from "vitest";
import { effectScope } from "vue";
import { Refusal } from "../src/api/client";
import { unsentIn } from "../src/board/unsent";
import { act, AWAY, EMPTY, here, page, passes, says } from "./outboxes";

describe("while there is no connection", () => {
  it("asks seldom, however much is done, and sends all of it in order when it is back", async () => {
    const box = page("a");
    here.server.away = AWAY;
    for (let n = 1; n <= 50; n++) box.took(act(n));
    await passes(60_000);
    expect(here.server.posts).toBeLessThan(8);
    expect(box.saving.value).toBe("waiting");
    here.server.away = null;
    await passes(31_000);
    expect(here.server.acts).toHaveLength(50);
    expect(says(box.document())).toEqual(here.server.document.lines.map((l) => l.id));
    expect(box.saving.value).toBe("saved");
    expect(localStorage).toHaveLength(0);
  });
  it("tries at once when the browser is connected again", async () => {
    const box = page("a");
    here.server.away = AWAY;
    box.took(act(1));
    await passes(20_000);
    here.server.away = null;
    window.dispatchEvent(new Event("online"));
    await passes(1);
    expect(here.server.acts).toHaveLength(1);
  });
  it("ends with the page", async () => {
    const box = page("a");
    here.server.away = AWAY;
    box.took(act(1));
    await passes(5000);
    here.scope.stop();
    await passes(1);
    const posts = here.server.posts;
    await passes(300_000);
    expect(here.server.posts).toBe(posts);
    expect(unsentIn(7)).toEqual([{ board: 3, count: 1 }]);
  });
  it("goes on although the clock is set back", async () => {
    const box = page("a");
    here.server.away = AWAY;
    box.took(act(1));
    await passes(10);
    vi.setSystemTime(new Date("2001-01-01"));
    here.server.away = null;
    await passes(31_000);
    expect(here.server.acts).toHaveLength(1);
  });
  it("waits as long as a crowded server asks for", async () => {
    const box = page("a");
    here.server.away = new Refusal(503, "crowded", "Many at once.", 20);
    box.took(act(1));
    await passes(19_000);
    expect(here.server.posts).toBe(1);
  });
});

describe("what the server will not take", () => {
  it("is set aside, to be corrected or let go, and holds nobody up", async () => {
    const box = page("a");
    here.server.away = AWAY;
    for (const n of [1, 2, 3, 4]) box.took(act(n));
    here.server.away = null;
    here.server.refuses = (one) => JSON.stringify(one).includes("circle 2,");
    await passes(60_000);
    expect(says(here.server.document)).toEqual([1, 3, 4]);
    expect(says(box.document())).toEqual([1, 3, 4]);
    expect(box.saving.value).toBe("saved");
    expect(box.refused.value).toEqual([
      { says: "circle 2, 0; radius 1", why: "It holds what cannot be kept." },
    ]);
    expect(box.waiting()).toBe(0);
    const posts = here.server.posts;
    await passes(120_000);
    expect(here.server.posts).toBe(posts);
  });
  it("is nothing any more where it was taken back", async () => {
    const box = page("a");
    here.server.refuses = (one) => JSON.stringify(one).includes("circle 2,");
    here.server.away = AWAY;
    box.took(act(1));
    box.took(act(2));
    box.took([{ at: 1, gone: act(2)[0]?.come ?? [], come: [] }]);
    here.server.away = null;
    await passes(60_000);
    expect(says(here.server.document)).toEqual([1]);
    expect(box.saving.value).toBe("saved");
  });
  it("waits where there is no room, and goes on when something was taken away again", async () => {
    const box = page("a");
    box.took(act(1));
    await passes(10);
    here.server.away = new Refusal(422, "no-room", "This drawing takes up all the room.");
    box.took(act(2));
    await passes(120_000);
    expect(box.saving.value).toBe("refused");
    expect(box.unsaved.value).toContain("room");
    expect(box.waiting()).toBe(1);
    expect(box.refused.value).toEqual([]);
    box.took([{ at: 1, gone: act(2)[0]?.come ?? [], come: [] }]);
    expect(box.waiting()).toBe(0);
    here.server.away = null;
    box.took(act(3, 1));
    await passes(1);
    expect(says(here.server.document)).toEqual([1, 3]);
    expect(box.saving.value).toBe("saved");
  });
  it("is kept when the session has ended, and sent after it", async () => {
    const box = page("a");
    here.server.away = new Refusal(401, "not-signed-in", "Sign in again.");
    box.took(act(1));
    await passes(10);
    expect(unsentIn(7)).toEqual([{ board: 3, count: 1 }]);
    here.server.away = null;
    await passes(31_000);
    expect(here.server.acts).toHaveLength(1);
  });
});

describe("two pages of one browser", () => {
  it("keep what is theirs, and neither deletes the other's", async () => {
    const [a, b] = [page("a"), page("b")];
    here.server.away = AWAY;
    a.took(act(1));
    a.took(act(2));
    b.took(act(3, 0));
    await passes(10);
    expect(unsentIn(7)).toEqual([{ board: 3, count: 3 }]);
    here.server.away = null;
    await a.flush();
    expect(unsentIn(7)).toEqual([{ board: 3, count: 1 }]);
    await b.flush();
    expect(b.parted.value?.mine.lines.map((l) => l.id)).toEqual([3]);
    expect(b.parted.value?.kept.lines.map((l) => l.id)).toEqual([1, 2]);
  });
  it("do not take from a page that lives; what gone ones left is taken on, one after the other", async () => {
    const gone = effectScope();
    here.server.away = AWAY;
    page("a", 7, gone).took(act(1));
    page("b", 7, gone).took(act(2, 0));
    gone.stop();
    page("lives").took(act(3, 0));
    await passes(10);
    here.server.away = null;
    const box = page("new");
    expect((await box.takeOver()).acts).toBe(true);
    expect(here.server.acts).toHaveLength(1);
    expect((await box.takeOver()).acts).toBe(true);
    expect(says(box.parted.value?.mine ?? EMPTY)).toEqual([2]);
    expect(await box.choose("mine")).toBe(true);
    expect((await box.takeOver()).acts).toBe(false);
    expect(unsentIn(7)).toEqual([{ board: 3, count: 1 }]);
  });
  it("do not do twice what went through although its answer was lost", async () => {
    const gone = effectScope();
    const box = page("a", 7, gone);
    here.server.away = AWAY;
    box.took(act(1));
    await passes(10);
    gone.stop();
    await passes(10);
    here.server.acts.push(act(1)); // it had come through
    here.server.away = null;
    const next = page("b");
    await next.takeOver();
    expect(here.server.acts).toHaveLength(1);
    expect(next.saving.value).toBe("saved");
  });
  it("takes on what was kept before it was kept by page", async () => {
    localStorage.setItem(
      "even-mark board 3 waits",
      JSON.stringify({ base: 0, acts: [act(1)], document: { ...EMPTY, lines: act(1)[0]?.come } }),
    );
    const box = page("a");
    await box.takeOver();
    expect(here.server.acts).toHaveLength(1);
    expect(localStorage).toHaveLength(0);
  });
});

describe("two lists", () => {
  it("are shown again where the other one has gone on meanwhile", async () => {
    const box = page("a");
    here.server.acts.push(act(5));
    box.took(act(1));
    await passes(1);
    expect(box.parted.value?.base).toBe(1);
    here.server.acts.push(act(6));
    expect(await box.choose("mine")).toBe(false);
    expect(box.parted.value?.base).toBe(2);
    expect(await box.choose("mine")).toBe(true);
    expect(box.parted.value).toBe(null);
    expect(box.saving.value).toBe("saved");
  });
  it("stay where the choice cannot be sent", async () => {
    const box = page("a");
    here.server.acts.push(act(5));
    box.took(act(1));
    await passes(1);
    vi.spyOn(here.server.post, "part").mockRejectedValue(AWAY);
    await expect(box.choose("kept")).rejects.toThrow();
    expect(box.parted.value).not.toBe(null);
    expect(unsentIn(7)).toEqual([{ board: 3, count: 1 }]);
  });
});

describe("a very long list of acts", () => {
  it("goes in pieces that the server takes", async () => {
    const box = page("a");
    here.server.away = AWAY;
    const wide = "x".repeat(400_000);
    for (let n = 1; n <= 8; n++)
      box.took([{ at: n - 1, gone: [], come: [{ kind: "remark", id: n, says: wide }] }]);
    await passes(10);
    here.server.away = null;
    const sizes: number[] = [];
    vi.spyOn(here.server.post, "acts").mockImplementation((base, acts) => {
      sizes.push(JSON.stringify(acts).length);
      return Promise.resolve({ version: base + acts.length });
    });
    await box.flush();
    expect(Math.max(...sizes)).toBeLessThan(2_000_000);
    expect(box.saving.value).toBe("saved");
  });
});
