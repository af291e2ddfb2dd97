/**
 * A board as the page holds it: its list and drawing, what was done and can be taken back, what waits to be saved. Every act is
 * worked out by the core (in the worker, else on the server), kept in this browser, and sent in order.
 */
import { computed, onScopeDispose, readonly, ref, shallowReadonly, shallowRef } from "vue";
import { get, post, Refusal, saysOf, type Schemas } from "../api/client";
import { decimalComma, personId } from "../who";
import { askServer, Lost, Refused, WorkerEngine } from "./engine";
import { whileOpen } from "./leaving";
import { postActs } from "./saving";
import { backOf } from "./edits";
import { digestOf } from "./digest";
import type { Answers, Asks, Call, Done, KeptDocument, Edit } from "./types";
import { keepSteps, stepsOf, UnsentPlace, type Unfinished, type Waits } from "./unsent";
import { unreachable, useOutbox, type Post } from "./useOutbox";
import { useShown } from "./useShown";

/** What changes the drawing. */
const ACTS = [
  "write",
  "change",
  "take_away",
  "move",
  "line",
  "replace",
  "lay_in",
  "put_on",
  "correct",
  "pull",
] as const;
type Act = (typeof ACTS)[number];
/** Whether something is asked with a sentence that somebody is writing. */
const written = (call: Call) => ["state", "point", "write", "change"].includes(call);
type Json = Record<string, unknown>;

const postOf = (board_id: number): Post => ({
  acts: (base, acts) => postActs(board_id, base, acts),
  part: (base, take, document) =>
    post("/api/boards/{board_id}/part", { board_id }, { base, take, document: document as Json }),
  found: async () => {
    const found = await get("/api/boards/{board_id}", { board_id });
    return { version: found.version, document: found.document as KeptDocument };
  },
});

export function useBoard(board_id: number) {
  const page = shallowRef<Schemas["BoardPage"] | null>(null);
  const trouble = ref<unknown>(null);
  const { rows, pieces, view, inWorker, take, answers } = useShown();
  const done = shallowRef<Edit[][]>([]);
  const undone = shallowRef<Edit[][]>([]);
  /** A sentence that was being written here before and was not entered. */
  const unfinished = shallowRef<Unfinished | null>(null);

  const others = new BroadcastChannel(`even-mark board ${board_id}`);
  const outbox = useOutbox(postOf(board_id), new UnsentPlace(personId(), board_id), (version) =>
    others.postMessage({ version }),
  );
  let worker: WorkerEngine | null = null;
  let restarts = 0;
  let closed = false;

  // who answers

  async function ask<C extends Call>(call: C, plain: Asks[C]): Promise<Answers[C]> {
    const args = written(call) && decimalComma() ? { ...plain, commas: true } : plain;
    if (worker && inWorker.value) {
      try {
        return await worker.ask(call, args);
      } catch (why) {
        if (!(why instanceof Lost)) throw why;
      }
    }
    // who only looks does not ask more often than it is tried again
    if (outbox.retry.waits() && !(ACTS as readonly string[]).includes(call))
      throw new Refusal(0, "no-connection", "The server cannot be reached just now.");
    try {
      await outbox.flush();
      return await askServer(board_id, outbox.version(), call, args);
    } catch (why) {
      if (unreachable(why)) outbox.retry.later();
      // another page went on from it, and nothing waits here that was done to the older list: it is taken as it is now
      if (!(why instanceof Refusal) || why.code !== "parted" || outbox.waiting() || outbox.parted.value)
        throw why;
      await load();
      return askServer(board_id, outbox.version(), call, args);
    }
  }

  function startWorker(): void {
    if (typeof Worker === "undefined" || typeof WebAssembly === "undefined") return;
    const made = new WorkerEngine(() => {
      answers(false);
      worker = null;
      if (!closed && restarts++ < 3) startWorker();
    });
    worker = made;
    made.ready
      .then(() =>
        queued(async () => {
          // within the line of acts: nothing may be done between what it is given and its first answer
          const opened = await made.ask("open", { document: outbox.document() });
          if (worker !== made) return;
          answers(true);
          if (outbox.waiting()) take(opened, true);
        }),
      )
      .then(() => outbox.retry.now())
      .catch(() => {
        made.end();
        if (worker === made) worker = null;
      });
  }

  // one act after the other

  let line: Promise<unknown> = Promise.resolve();
  function queued<T>(work: () => Promise<T>): Promise<T> {
    const next = line.then(work, work);
    line = next.catch(() => undefined);
    return next;
  }

  /** Does something to the list; `sentence` is the one among those that wait which it was. */
  function act<A extends Act>(call: A, args: Asks[A], sentence?: Waits): Promise<Done> {
    return queued(async () => {
      const answer = (await ask(call, args)) as Done;
      outbox.took(answer.splices, sentence);
      take(answer.view);
      done.value = [...done.value, answer.splices];
      undone.value = [];
      remember();
      return answer;
    });
  }

  const standing = () => outbox.version() + outbox.waiting();
  function remember(): void {
    keepSteps(personId(), board_id, { version: standing(), done: done.value, undone: undone.value });
  }

  async function back(from: typeof done, to: typeof undone): Promise<void> {
    await queued(async () => {
      const splices = from.value.at(-1);
      if (!splices) return;
      const other = backOf(splices);
      let shown: (typeof view)["value"] = null;
      if (worker && inWorker.value) shown = (await worker.ask("apply", { splices: other })).view;
      else await outbox.flush(); // nothing is done that could not be shown
      outbox.took(other);
      from.value = from.value.slice(0, -1);
      to.value = [...to.value, other];
      remember();
      if (shown) take(shown);
      else {
        await outbox.flush();
        take(await askServer(board_id, outbox.version(), "view", {}), true);
      }
    });
  }
  const undo = () => back(done, undone);
  const redo = () => back(undone, done);

  // others

  /** Goes on with one of two lists. */
  async function choose(which: "mine" | "kept"): Promise<void> {
    if (!(await outbox.choose(which))) return;
    done.value = undone.value = [];
    await load();
    await takeOver();
    outbox.retry.now(); // sentences that waited for the choice
  }

  others.onmessage = (e: MessageEvent<{ version: number }>) => {
    if (e.data.version > outbox.version() && !outbox.waiting()) void queued(() => load());
  };
  /** Back on this page: another device may have gone on from it meanwhile. */
  function looked(): void {
    if (!page.value || outbox.waiting() || outbox.parted.value) return;
    get("/api/boards/{board_id}", { board_id }).then(
      (found) => {
        if (found.version > outbox.version() && !outbox.waiting()) void queued(() => load());
      },
      () => undefined, // no connection: it is asked again next time
    );
  }
  window.addEventListener("focus", looked);

  // what the server will never take is set beside the line, between two acts; nobody waits for it
  outbox.setsAside(
    () =>
      void queued(async () => {
        if (!outbox.setAside()) return;
        done.value = undone.value = [];
        remember();
        await showAgain();
      }),
  );

  /** Waits until the server has all that was entered; returns by which digest it has to know the list. Throws why it has not. */
  async function confirmed(): Promise<{ digest: string }> {
    await outbox.judge();
    await queued(() => outbox.flush());
    await line; // what was not taken is set aside by now
    if (outbox.sentences.value.length || outbox.waiting() || outbox.parted.value)
      throw new Refusal(
        0,
        "unsent",
        "What you entered last is not on the server yet. Wait for the connection, then try again.",
      );
    return { digest: digestOf(outbox.document()) };
  }

  // opening

  /** Shows the list as it is here now, by the worker. */
  async function showAgain(): Promise<void> {
    if (worker && inWorker.value) {
      take(await worker.ask("open", { document: outbox.document() }), true);
      return;
    }
    await outbox.flush();
    take(await askServer(board_id, outbox.version(), "view", {}), true);
  }

  async function load(tries = 3): Promise<void> {
    const found = await get("/api/boards/{board_id}", { board_id });
    page.value = found;
    outbox.opened({ version: found.version, document: found.document as KeptDocument });
    if (worker && inWorker.value) {
      try {
        take(await worker.ask("open", { document: outbox.document() }), true);
        return;
      } catch (why) {
        if (!(why instanceof Lost)) throw why;
      }
    }
    try {
      take(await askServer(board_id, found.version, "view", {}), true);
    } catch (why) {
      // somebody went on from it between both questions
      if (tries > 1 && why instanceof Refusal && why.code === "parted") await load(tries - 1);
      else throw why;
    }
  }

  /** Takes on what was done here before, in pages that are gone, and never reached the server: one after the other. */
  async function takeOver(): Promise<void> {
    for (;;) {
      const left = await outbox.takeOver();
      unfinished.value ??= left.writing;
      if (!left.acts || outbox.parted.value || outbox.waiting()) return;
      await load();
    }
  }

  async function open(): Promise<void> {
    trouble.value = null;
    try {
      await outbox.live();
      await load();
      await takeOver();
      const before = stepsOf(personId(), board_id);
      if (before && before.version === standing()) {
        done.value = before.done;
        undone.value = before.undone;
      }
      startWorker();
    } catch (why) {
      trouble.value = why;
    }
  }

  async function opened(aside_id: number): Promise<void> {
    const found = await get("/api/boards/{board_id}/aside/{aside_id}", { board_id, aside_id });
    await act("replace", { document: found.document });
  }

  const gone = whileOpen(confirmed);
  onScopeDispose(() => {
    closed = true;
    gone();
    worker?.end();
    others.close();
    window.removeEventListener("focus", looked);
  });

  return {
    page: shallowReadonly(page),
    trouble: readonly(trouble),
    rows,
    pieces,
    view,
    inWorker,
    outbox,
    unfinished: shallowReadonly(unfinished),
    done: computed(() => done.value.length),
    undone: computed(() => undone.value.length),
    open,
    ask: <C extends Call>(call: C, args: Asks[C]) => queued(() => ask(call, args)),
    act,
    undo,
    redo,
    confirmed,
    choose,
    opened,
    load: () => queued(() => load()),
  };
}

/** What stands against something that was asked, in a sentence. */
export function whyOf(why: unknown): string {
  return why instanceof Refused ? why.says : saysOf(why);
}
export type BoardState = ReturnType<typeof useBoard>;
