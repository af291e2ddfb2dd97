/** A board in the page, with its worker or without: an act is done once whoever answers, and nothing is said to be saved that is not. */
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { effectScope, type EffectScope } from "vue";
import { Refusal } from "../src/api/client";
import { useBoard } from "../src/board/useBoard";

const AWAY = new Refusal(0, "no-connection", "The server cannot be reached.");
const state = vi.hoisted(() => ({
  away: false,
  workerDies: false,
  posted: [] as string[],
  version: 0,
  asked: [] as string[],
}));
const VIEW = { order: [], rows: [], pieces: [], gone: [] };
const done = (says: string) => ({
  splices: [{ at: state.version, gone: [], come: [{ kind: "step", id: state.version + 1, says }] }],
  view: VIEW,
});

vi.mock("../src/api/client", async (original) => {
  const real = await original<typeof import("../src/api/client")>();
  const answer = (value: unknown) =>
    state.away ? Promise.reject(new real.Refusal(0, "no-connection", "away")) : Promise.resolve(value);
  return {
    ...real,
    get: () =>
      answer({
        version: state.version,
        document: { format: "even-mark/steps", version: 1, next: 1, lines: [] },
        aside: [],
      }),
    post: (path: string, _: unknown, body: { acts?: unknown[] }) => {
      state.posted.push(path);
      if (!state.away) state.version += body.acts?.length ?? 0;
      return answer({ version: state.version, attempt_id: 1 });
    },
  };
});
vi.mock("../src/board/engine", async (original) => {
  const real = await original<typeof import("../src/board/engine")>();
  class WorkerEngine {
    ready = Promise.resolve();
    constructor(private readonly lost: () => void) {}
    ask(call: string, args: { says?: string }) {
      state.asked.push(`worker ${call}`);
      if (state.workerDies && call !== "open") {
        this.lost();
        return Promise.reject(new real.Lost("gone"));
      }
      return Promise.resolve(call === "open" ? VIEW : done(args.says ?? ""));
    }
    end() {
      return undefined;
    }
  }
  return {
    ...real,
    WorkerEngine,
    askServer: (_: number, __: number, call: string, args: { says?: string }) => {
      state.asked.push(`server ${call}`);
      if (state.away) return Promise.reject(AWAY);
      return Promise.resolve(call === "view" ? VIEW : done(args.says ?? ""));
    },
  };
});
vi.stubGlobal(
  "Worker",
  class {
    terminate() {
      return undefined;
    }
  },
);

let scope: EffectScope;
async function opened() {
  const board = scope.run(() => useBoard(3));
  if (!board) throw new Error("no scope");
  await board.open();
  await vi.advanceTimersByTimeAsync(10);
  return board;
}
beforeEach(() => {
  vi.useFakeTimers();
  localStorage.clear();
  Object.assign(state, { away: false, workerDies: false, posted: [], version: 0, asked: [] });
  scope = effectScope();
});
afterEach(() => {
  scope.stop();
  vi.useRealTimers();
});

describe("a worker that is lost", () => {
  it("has its act done by the server, once", async () => {
    const board = await opened();
    expect(board.inWorker.value).toBe(true);
    state.workerDies = true;
    await board.act("write", { says: "circle 0, 0; radius 1" });
    await vi.advanceTimersByTimeAsync(10);
    expect(state.asked.filter((a) => a.endsWith("write"))).toEqual(["worker write", "server write"]);
    expect(state.version).toBe(1);
    expect(board.done.value).toBe(1);
  });
});

describe("without connection and worker", () => {
  it("nothing is undone that cannot be shown, and nothing twice", async () => {
    state.workerDies = true;
    const board = await opened();
    await board.act("write", { says: "circle 0, 0; radius 1" });
    await vi.advanceTimersByTimeAsync(10);
    state.away = true;
    await expect(Promise.all([board.undo(), board.undo()])).rejects.toThrow();
    state.away = false;
    await vi.advanceTimersByTimeAsync(60_000);
    expect(state.version).toBeLessThanOrEqual(2);
    expect(board.done.value + board.undone.value).toBe(1);
  });
  it("who only looks does not ask again and again", async () => {
    state.workerDies = true;
    const board = await opened();
    await board.ask("find", {}).catch(() => undefined);
    state.away = true;
    state.asked = [];
    for (let n = 0; n < 40; n++) await board.ask("point", {}).catch(() => undefined);
    expect(state.asked.filter((a) => a.startsWith("server")).length).toBeLessThan(6);
  });
});

describe("what is handed in", () => {
  it("waits for the server to have all of it", async () => {
    const board = await opened();
    state.away = true;
    await board.act("write", { says: "circle 0, 0; radius 1" });
    await expect(board.confirmed()).rejects.toThrow();
    state.away = false;
    expect((await board.confirmed()).digest).toMatch(/^[0-9a-f]{64}$/);
    expect(state.version).toBe(1);
  });
});
