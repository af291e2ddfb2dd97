/** What this browser keeps of a board: by person and page, over a closed tab, until it is sent or signed out of. */
import { describe, expect, it, vi } from "vitest";
import { effectScope } from "vue";
import { keepSteps, sendLeft, unsentIn } from "../src/board/unsent";
import { dropHistory, dropOthers, isSomething, leftByOthers, leftInWords } from "../src/leavings";
import { act, AWAY, here, page, passes } from "./outboxes";

describe("what this browser keeps", () => {
  it("is said to be lost with the page where there is no room", async () => {
    const box = page("a");
    here.server.away = AWAY;
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
    here.server.away = AWAY;
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
    here.server.away = AWAY;
    page("a", 7).took(act(1));
    await passes(10);
    here.scope.stop();
    here.scope = effectScope();
    const other = page("b", 8);
    expect((await other.takeOver()).acts).toBe(false);
    expect(unsentIn(8)).toEqual([]);
    keepSteps(7, 3, { version: 1, done: [act(1)], undone: [] });
    localStorage.setItem("even-mark-draft 9 reason 4 1", '"Not so."');
    expect(leftByOthers(7)).toEqual({ steps: 0, texts: 1 });
    expect(leftByOthers(9)).toEqual({ steps: 1, texts: 0 });
    expect(leftInWords(leftByOthers(0))).toBe("one step of a drawing and one text");
    dropHistory(); // nobody is signed in: what can be undone goes, what is not saved stays
    expect(leftByOthers(0)).toEqual({ steps: 1, texts: 1 });
    expect(localStorage).toHaveLength(2);
    dropOthers(9);
    expect(isSomething(leftByOthers(9))).toBe(false);
    expect(localStorage).toHaveLength(1);
    dropOthers(0);
    expect(localStorage).toHaveLength(0);
  });
  it("is sent on signing out where nothing has to be chosen", async () => {
    here.server.away = AWAY;
    page("a").took(act(1));
    await passes(10);
    here.scope.stop();
    here.server.away = null;
    await sendLeft(7, (_, base, acts) => here.server.post.acts(base, acts), here.pages);
    expect(here.server.acts).toHaveLength(1);
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
