/** What of a board waits in this browser until the server has it: kept over a reload, a crash, a lost connection. */
import type { Kept, Splice } from "./types";

export interface Waiting {
  /** The version that the acts were made for. */
  base: number;
  acts: Splice[][];
  /** The whole list with them. */
  document: Kept;
}
export interface Steps {
  /** For which version what was done can be taken back. */
  version: number;
  done: Splice[][];
  undone: Splice[][];
}
const MOST_BACK = 100;
const place = (board: number, what: string) => `even-mark board ${board} ${what}`;

function read<T>(key: string): T | null {
  try {
    const found = localStorage.getItem(key);
    return found ? (JSON.parse(found) as T) : null;
  } catch {
    return null;
  }
}
function write(key: string, value: unknown): boolean {
  try {
    if (value === null) localStorage.removeItem(key);
    else localStorage.setItem(key, JSON.stringify(value));
    return true;
  } catch {
    return false; // full or closed: the page says that what is drawn is not saved yet
  }
}

export const waitingOf = (board: number) => read<Waiting>(place(board, "waits"));
export const keepWaiting = (board: number, waiting: Waiting | null) => write(place(board, "waits"), waiting);
export const stepsOf = (board: number) => read<Steps>(place(board, "back"));
export function keepSteps(board: number, steps: Steps): void {
  write(place(board, "back"), {
    version: steps.version,
    done: steps.done.slice(-MOST_BACK),
    undone: steps.undone.slice(-MOST_BACK),
  });
}

/** What takes splices back. */
export function backOf(splices: readonly Splice[]): Splice[] {
  return splices.map((s) => ({ at: s.at, gone: s.come, come: s.gone })).reverse();
}

/** A list after splices. */
export function spliced(document: Kept, splices: readonly Splice[]): Kept {
  const lines = [...document.lines];
  let next = document.next;
  for (const s of splices) {
    lines.splice(s.at, s.gone.length, ...s.come);
    for (const line of s.come) next = Math.max(next, (line.id ?? 0) + 1);
  }
  return { ...document, next, lines };
}
