/**
 * Who answers calls about a board: the page's own worker once it is ready, the server until then and where none can run. Which of
 * both it is cannot be told but by speed.
 */
import { post } from "../api/client";
import coreUrl from "../../generated/core.zip?url";
import type { Answers, Asks, Call, KeptDocument, Refusal } from "./types";

/** A call that takes longer than this will not be answered any more. */
const LONGEST_MS = 8000;
declare const __PYODIDE__: string;

export class Refused extends Error {
  constructor(
    readonly says: string,
    readonly at: number | null = null,
    /** The sentences that it may mean. */
    readonly readings: readonly string[] = [],
  ) {
    super(says);
  }
}
/** The worker is gone; what was asked of it has to be asked again. */
export class Lost extends Error {}

export function unwrap<C extends Call>(answer: Answers[C] | Refusal): Answers[C] {
  if (answer && typeof answer === "object" && "refused" in answer)
    throw new Refused(answer.refused, answer.at ?? null, answer.readings);
  return answer as Answers[C];
}

interface Waiting {
  done(answer: string): void;
  failed(why: Error): void;
}

/** The core in a worker. */
export class WorkerEngine {
  private worker: Worker;
  private waiting = new Map<number, Waiting>();
  private next = 1;
  readonly ready: Promise<void>;

  constructor(private readonly lost: () => void) {
    this.worker = new Worker(new URL("./worker.ts", import.meta.url), { type: "module" });
    this.ready = new Promise((done, failed) => {
      this.worker.onmessage = (
        e: MessageEvent<{ ready?: boolean; why?: string; id?: number; answer?: string; broke?: string }>,
      ) => {
        const said = e.data;
        if (said.ready !== undefined) {
          if (said.ready) done();
          else failed(new Error(said.why));
          return;
        }
        const one = this.waiting.get(said.id ?? 0);
        this.waiting.delete(said.id ?? 0);
        if (said.answer !== undefined) one?.done(said.answer);
        else
          one?.failed(
            new Error(said.broke ?? "The drawing engine stopped. Reload the page; nothing is lost."),
          );
      };
      this.worker.onerror = (e) => {
        failed(new Error(e.message));
        this.end();
        this.lost();
      };
    });
    const at = `${location.origin}/assets/pyodide-${__PYODIDE__}/`;
    this.worker.postMessage({ interpreter: at, core: new URL(coreUrl, location.href).href });
  }

  ask<C extends Call>(call: C, args: Asks[C]): Promise<Answers[C]> {
    const id = this.next++;
    return new Promise<string>((done, failed) => {
      const late = setTimeout(() => {
        // it hangs, or was ended by the browser: another one is begun
        this.end();
        this.lost();
      }, LONGEST_MS);
      this.waiting.set(id, {
        done: (answer) => {
          clearTimeout(late);
          done(answer);
        },
        failed: (why) => {
          clearTimeout(late);
          failed(why);
        },
      });
      this.worker.postMessage({ id, call, args: JSON.stringify(args) });
    }).then((answer) => unwrap<C>(JSON.parse(answer) as Answers[C] | Refusal));
  }

  end(): void {
    this.worker.terminate();
    for (const one of this.waiting.values()) one.failed(new Lost("The worker has ended."));
    this.waiting.clear();
  }
}

/** Asks the server about the version that is kept there. */
export async function askServer<C extends Call>(
  board_id: number,
  version: number,
  call: C,
  args: Asks[C],
): Promise<Answers[C]> {
  const found = await post(
    "/api/boards/{board_id}/ask",
    { board_id },
    {
      version,
      call,
      args: args as Record<string, unknown>,
    },
  );
  return unwrap<C>(found.answer as Answers[C] | Refusal);
}

export type { KeptDocument };
