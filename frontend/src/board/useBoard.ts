/**
 * A board as the page holds it: its list and drawing, what was done and can be taken back, what waits to be saved. Every act is
 * worked out by the core (in the worker, else on the server), kept in this browser, and sent in order.
 */
import { computed, onScopeDispose, ref, shallowRef } from "vue";
import { get, post, Refusal, saysOf, type Schemas } from "../api/client";
import { askServer, Lost, Refused, WorkerEngine } from "./engine";
import { backOf, keepSteps, keepWaiting, spliced, stepsOf, waitingOf } from "./store";
import type { Answers, Call, Done, Kept, Splice } from "./types";
import { useShown } from "./useShown";

/** What changes the drawing. */
type Act =
  "write" | "change" | "take_away" | "move" | "line" | "replace" | "lay_in" | "put_on" | "correct" | "pull";
const AGAIN_MS = 3000;
const MOST_SENT = 200;

export function useBoard(board_id: number) {
  const page = shallowRef<Schemas["BoardPage"] | null>(null);
  const trouble = ref<unknown>(null);
  const { rows, pieces, view, inWorker, take } = useShown();
  const saving = ref<"saved" | "saving" | "waiting">("saved");
  /** Why what was done last is not saved yet. */
  const unsaved = ref("");
  const parted = shallowRef<{ mine: Kept; kept: Kept; base: number } | null>(null);
  const done = shallowRef<Splice[][]>([]);
  const undone = shallowRef<Splice[][]>([]);

  let document: Kept = { format: "even-mark/steps", version: 1, next: 1, lines: [] };
  let version = 0;
  let waiting: Splice[][] = [];
  let worker: WorkerEngine | null = null;
  let restarts = 0;
  let sending: Promise<void> | null = null;
  let closed = false;

  // who answers

  async function ask<C extends Call>(call: C, args: object = {}): Promise<Answers[C]> {
    if (worker && inWorker.value) {
      try {
        return await worker.ask(call, args);
      } catch (why) {
        if (!(why instanceof Lost)) throw why;
      }
    }
    await flush();
    return askServer(board_id, version, call, args);
  }

  function startWorker(): void {
    if (typeof Worker === "undefined" || typeof WebAssembly === "undefined") return;
    const made = new WorkerEngine(() => {
      inWorker.value = false;
      worker = null;
      if (!closed && restarts++ < 3) startWorker();
    });
    worker = made;
    made.ready
      .then(() =>
        queued(async () => {
          // within the line of acts: nothing may be done between what it is given and its first answer
          await made.ask("open", { document });
          if (worker === made) inWorker.value = true;
        }),
      )
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

  function act(call: Act, args: object): Promise<Done> {
    return queued(async () => {
      const answer = (await ask(call, args)) as Done;
      took(answer.splices);
      take(answer.view);
      done.value = [...done.value, answer.splices];
      undone.value = [];
      remember();
      return answer;
    });
  }

  /** Notes down what was done, so that nothing of it can be lost, and sends it. */
  function took(splices: Splice[]): void {
    document = spliced(document, splices);
    waiting = [...waiting, splices];
    keepWaiting(board_id, { base: version, acts: waiting, document });
    again();
  }

  function remember(): void {
    keepSteps(board_id, { version: version + waiting.length, done: done.value, undone: undone.value });
  }

  async function back(from: typeof done, to: typeof undone): Promise<void> {
    await queued(async () => {
      const splices = from.value.at(-1);
      if (!splices) return;
      const other = backOf(splices);
      if (worker && inWorker.value) {
        take((await worker.ask("apply", { splices: other })).view);
        took(other);
      } else {
        took(other);
        await flush();
        take(await askServer(board_id, version, "view", {}), true);
      }
      from.value = from.value.slice(0, -1);
      to.value = [...to.value, other];
      remember();
    });
  }
  const undo = () => back(done, undone);
  const redo = () => back(undone, done);

  // saving

  function flush(): Promise<void> {
    if (!waiting.length || parted.value) return Promise.resolve();
    sending ??= send().finally(() => {
      sending = null;
    });
    return sending;
  }

  /** Sends what waits; what stands against it is said beside the title, and it is tried again. */
  function again(): void {
    flush().catch(() => undefined);
  }

  async function send(): Promise<void> {
    while (waiting.length) {
      saving.value = saving.value === "waiting" ? "waiting" : "saving";
      const acts = waiting.slice(0, MOST_SENT);
      try {
        const saved = await post(
          "/api/boards/{board_id}/acts",
          { board_id },
          {
            base: version,
            acts: acts as unknown as Record<string, unknown>[][],
          },
        );
        waiting = waiting.slice(acts.length);
        version = saved.version;
        keepWaiting(board_id, waiting.length ? { base: version, acts: waiting, document } : null);
        saving.value = waiting.length ? "saving" : "saved";
        unsaved.value = "";
        if (!waiting.length) others.postMessage({ version });
        remember();
      } catch (why) {
        if (why instanceof Refusal && why.code === "parted") {
          await part();
          return;
        }
        saving.value = "waiting";
        unsaved.value = saysOf(why);
        setTimeout(again, AGAIN_MS);
        throw why;
      }
    }
  }

  /** Another page has gone on from the same version: both lists are shown, to choose from. */
  async function part(): Promise<void> {
    const kept = await get("/api/boards/{board_id}", { board_id });
    parted.value = { mine: document, kept: kept.document as unknown as Kept, base: kept.version };
    saving.value = "waiting";
  }

  async function choose(which: "mine" | "kept"): Promise<void> {
    const two = parted.value;
    if (!two) return;
    const saved = await post(
      "/api/boards/{board_id}/part",
      { board_id },
      {
        base: two.base,
        take: which,
        document: two.mine as unknown as Record<string, unknown>,
      },
    );
    version = saved.version;
    waiting = [];
    keepWaiting(board_id, null);
    parted.value = null;
    saving.value = "saved";
    done.value = undone.value = [];
    await load();
    others.postMessage({ version });
  }

  const others = new BroadcastChannel(`even-mark board ${board_id}`);
  others.onmessage = (e: MessageEvent<{ version: number }>) => {
    if (e.data.version > version && !waiting.length) void queued(() => load());
  };
  /** Back on this page: another device may have gone on from it meanwhile. */
  function looked(): void {
    if (!page.value || waiting.length || parted.value) return;
    get("/api/boards/{board_id}", { board_id }).then(
      (found) => {
        if (found.version > version && !waiting.length) void queued(() => load());
      },
      () => undefined, // no connection: it is asked again next time
    );
  }
  window.addEventListener("online", again);
  window.addEventListener("focus", looked);

  // opening

  async function load(tries = 3): Promise<void> {
    const found = await get("/api/boards/{board_id}", { board_id });
    page.value = found;
    version = found.version;
    document = found.document as unknown as Kept;
    if (worker && inWorker.value) {
      try {
        take(await worker.ask("open", { document }), true);
        return;
      } catch (why) {
        if (!(why instanceof Lost)) throw why;
      }
    }
    try {
      take(await askServer(board_id, version, "view", {}), true);
    } catch (why) {
      // somebody went on from it between both questions
      if (tries > 1 && why instanceof Refusal && why.code === "parted") await load(tries - 1);
      else throw why;
    }
  }

  async function open(): Promise<void> {
    trouble.value = null;
    const left = waitingOf(board_id);
    try {
      if (left?.acts.length) {
        // what was drawn here before and never reached the server
        version = left.base;
        document = left.document;
        waiting = left.acts;
        await flush().catch(() => undefined);
        if (waiting.length && !parted.value) page.value = await get("/api/boards/{board_id}", { board_id });
      }
      if (!waiting.length) await load();
      else if (parted.value) take(await askServer(board_id, parted.value.base, "view", {}), true);
      const before = stepsOf(board_id);
      if (before && before.version === version + waiting.length) {
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

  onScopeDispose(() => {
    closed = true;
    worker?.end();
    others.close();
    window.removeEventListener("online", again);
    window.removeEventListener("focus", looked);
  });

  return {
    page,
    trouble,
    rows,
    pieces,
    view,
    saving,
    unsaved,
    inWorker,
    parted,
    done: computed(() => done.value.length),
    undone: computed(() => undone.value.length),
    open,
    ask: <C extends Call>(call: C, args: object = {}) => queued(() => ask(call, args)),
    act,
    undo,
    redo,
    flush,
    choose,
    opened,
    kept: () => document,
  };
}

/** What stands against something that was asked, in a sentence. */
export function whyOf(why: unknown): string {
  return why instanceof Refused ? why.says : saysOf(why);
}
export type BoardState = ReturnType<typeof useBoard>;
