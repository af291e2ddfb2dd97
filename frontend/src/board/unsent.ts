/**
 * What of a board this browser keeps until the server has it: over a reload, a crash, a lost connection, a closed tab. KeptDocument by person, board
 * and page, so that two pages never write over each other's; a page that is opened takes on what pages that are gone have left.
 */
import { presence, type Presence } from "./presence";
import type { KeptDocument, Edit } from "./types";

/** A sentence that was entered while nobody could judge it. */
export interface Waits {
  says: string;
  /** The step in whose place it stands, or before which; null for the end. */
  place: { step: number; how: "change" | "before" } | null;
  /** The layer that was chosen for it; nothing for the one that is drawn on by then. */
  layer: string;
  /** The layer that was chosen for this one step, where one was. */
  own?: string;
}
/** The sentence that is being written. */
export type Unfinished = Pick<Waits, "says" | "place">;
/** A sentence that was entered ahead and then could not be added, and why. */
export interface NotTaken {
  says: string;
  why: string;
  /** The sentences that it may mean. */
  readings?: readonly string[];
}

export interface Unsent {
  /** The version that the acts were made for. */
  base: number;
  acts: Edit[][];
  /** The whole list with them; null where there are none. */
  document: KeptDocument | null;
  sentences: readonly Waits[];
  refused: readonly NotTaken[];
  writing: Unfinished | null;
}

const START = "even-mark outbox";
const startOf = (person: number, board: number | "" = "") => `${START} ${person} ${board}${board && " "}`;
const HISTORY = "even-mark steps back";
/** Where boards were kept before they were kept by person and page. */
const oldName = (board: number) => `even-mark board ${board} waits`;

export const isEmpty = (u: Unsent) =>
  !u.acts.length && !u.sentences.length && !u.refused.length && !u.writing;

function read<T>(name: string): T | null {
  try {
    const found = localStorage.getItem(name);
    return found ? (JSON.parse(found) as T) : null;
  } catch {
    return null;
  }
}
function write(name: string, value: unknown): boolean {
  try {
    if (value === null) localStorage.removeItem(name);
    else localStorage.setItem(name, JSON.stringify(value));
    return true;
  } catch {
    return false; // full or closed: whoever keeps something says so
  }
}
const names = (start: string): string[] => {
  try {
    return Object.keys(localStorage).filter((n) => n.startsWith(start));
  } catch {
    return [];
  }
};

/** A page's own place for what is not sent. */
export class UnsentPlace {
  private readonly name: string;
  private release: (() => void) | null = null;
  private left = false;

  constructor(
    private readonly person: number,
    private readonly board: number,
    private readonly pages: Presence = presence(),
    page = Math.random().toString(36).slice(2),
  ) {
    this.name = startOf(person, board) + page;
  }
  /** Says that this page lives; to be waited for before anything is kept. */
  async live(): Promise<void> {
    this.release ??= await this.pages.hold(this.name);
    if (this.left) this.release();
  }
  leave(): void {
    this.left = true;
    this.release?.();
    this.release = null;
  }
  /** Keeps what is not sent; says whether the browser could. */
  keep(unsent: Unsent): boolean {
    return write(this.name, isEmpty(unsent) ? null : unsent);
  }
  /** Takes on what one page that is gone has left, if one has: it is kept as this page's before it goes there. */
  async takeOver(): Promise<Unsent | null> {
    const before = read<Partial<Unsent>>(oldName(this.board));
    if (before) write(startOf(this.person, this.board) + "before", { ...NOTHING, ...before });
    write(oldName(this.board), null);
    for (const name of names(startOf(this.person, this.board))) {
      if (name === this.name) continue;
      let found: Unsent | null = null;
      await this.pages.ifGone(name, () => {
        found = read<Unsent>(name);
        if (!found || this.keep(found)) {
          write(name, null);
          return;
        }
        write(name, null); // there is no room for both
        if (!this.keep(found)) write(name, found); // it stays where it was, too: what is sent twice is done once
      });
      if (found && !isEmpty(found)) return found;
    }
    return null;
  }
}
export const NOTHING: Unsent = {
  base: 0,
  acts: [],
  document: null,
  sentences: [],
  refused: [],
  writing: null,
};

/** Whose is what stands under some names: their number is the first word behind the start. */
const owned = (start: string) =>
  names(`${start} `).map((name) => ({ name, person: Number(name.slice(start.length + 1).split(" ")[0]) }));
export const outboxNames = () => owned(START);
export const historyNames = () => owned(HISTORY);

export interface LeftBehind {
  board: number;
  /** How many acts and sentences. */
  count: number;
}
/** Returns what of somebody's boards the server does not have yet. */
export function unsentIn(person: number): LeftBehind[] {
  const counts = new Map<number, number>();
  for (const name of names(startOf(person))) {
    const board = Number(name.slice(startOf(person).length).split(" ")[0]);
    const found = read<Unsent>(name);
    const count = (found?.acts.length ?? 0) + (found?.sentences.length ?? 0);
    if (count) counts.set(board, (counts.get(board) ?? 0) + count);
  }
  return [...counts].map(([board, count]) => ({ board, count }));
}

/** Sends what pages that are gone have left, as far as it can be sent without anything to decide. */
export async function sendLeft(
  person: number,
  send: (board: number, base: number, acts: Edit[][]) => Promise<unknown>,
  pages: Presence = presence(),
): Promise<void> {
  for (const name of names(startOf(person))) {
    const board = Number(name.slice(startOf(person).length).split(" ")[0]);
    await pages.ifGone(name, async () => {
      const found = read<Unsent>(name);
      if (!found?.acts.length) return;
      const went = await send(board, found.base, found.acts).then(
        () => true,
        () => false,
      );
      if (went) write(name, found.sentences.length ? { ...found, acts: [], document: null } : null);
    });
  }
}

// what can be undone

export interface Steps {
  /** For which version what was done can be taken back. */
  version: number;
  done: Edit[][];
  undone: Edit[][];
}
const MOST_BACK = 100;
const historyName = (person: number, board: number) => `${HISTORY} ${person} ${board}`;
export const stepsOf = (person: number, board: number) => read<Steps>(historyName(person, board));
export function keepSteps(person: number, board: number, steps: Steps): void {
  write(historyName(person, board), {
    version: steps.version,
    done: steps.done.slice(-MOST_BACK),
    undone: steps.undone.slice(-MOST_BACK),
  });
}
