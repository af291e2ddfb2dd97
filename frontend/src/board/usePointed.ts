/** What the pointer would write into the sentence: what is in reach, which of it is meant, and where it rested. */
import { readonly, ref, shallowReadonly, shallowRef } from "vue";
import { Refused } from "./engine";
import { newest } from "./newest";
import type { Hold, Pointer } from "./pointing";
import type { Pointed } from "./types";
import { whyOf, type BoardState } from "./useBoard";
import { unreachable } from "./useOutbox";

const RESTS_MS = 450;
const MOST_RESTED = 4;
const RESTS_ON = ["end", "centre", "middle", "quarter", "crossing", "point"];

/** The sentence as the pointer meets it. */
export interface Line {
  says: string;
  caret: number;
  /** The step in whose place it is written, or before which. */
  before: number | null;
  /** Whether a kind of step is still looked for, so that nothing can be pointed at. */
  choosing: boolean;
}

export function usePointed(
  board: BoardState,
  hold: () => Hold,
  line: () => Line,
  refuse: (says: string) => void,
) {
  const pointed = shallowRef<Pointed | null>(null);
  const pointer = shallowRef<Pointer | null>(null);
  const which = ref(0);
  const rested = shallowRef<{ writes: string; x: number; y: number }[]>([]);

  /** Asks what a press means, in the line or in a text that stood there when it was pressed. */
  const asPointed = (p: Pointer, stood?: string): Promise<Pointed> => {
    const now = line();
    const { before } = now;
    const says = stood ?? now.says;
    const caret = stood === undefined ? now.caret : Math.min(now.caret, stood.length);
    return board.ask("point", {
      says,
      caret,
      before,
      x: p.at[0],
      y: p.at[1],
      reach: p.reach,
      pixel: p.pixel,
      which: which.value,
      rested: rested.value,
      ...hold(),
    });
  };
  const pointing = newest(async (p: Pointer) => {
    const { says } = line();
    try {
      const found = await asPointed(p);
      if (says !== line().says || !pointer.value) return;
      pointed.value = found;
      if (rests && pointer.value === p) takeRest(); // it had rested before it was known on what
    } catch (why) {
      if (!(why instanceof Refused) && !unreachable(why)) refuse(whyOf(why));
    }
  });

  /** Says where the pointer is, without asking what it would write there. */
  function moveTo(p: Pointer | null): void {
    pointer.value = p;
  }
  let rest: ReturnType<typeof setTimeout> | undefined;
  /** Whether the pointer has rested where it is. */
  let rests = false;
  function point(p: Pointer | null): Promise<void> {
    const stays = p !== null && pointer.value?.at.every((v, n) => v === p.at[n]) === true;
    moveTo(p);
    clearTimeout(rest);
    rests &&= stays; // asked again where it is, since the line has changed
    if (!p || line().choosing) {
      pointed.value = null;
      return Promise.resolve();
    }
    rest = setTimeout(() => {
      rests = true;
      takeRest();
    }, RESTS_MS);
    return pointing.ask(p);
  }
  /** Where the pointer rests on something, guides level and plumb with it are caught from then on. */
  function takeRest(): void {
    const chosen = pointed.value?.choices[pointed.value.which];
    if (!chosen?.at || !RESTS_ON.includes(chosen.kind)) return;
    const one = { writes: chosen.writes, x: chosen.at[0], y: chosen.at[1] };
    rested.value = [...rested.value.filter((r) => r.writes !== one.writes), one].slice(-MOST_RESTED);
  }
  function nextInReach(by = 1): void {
    const count = pointed.value?.choices.length ?? 0;
    if (!count || !pointer.value) return;
    which.value = (((which.value + by) % count) + count) % count;
    void point(pointer.value);
  }
  /** Forgets what was in reach, since the sentence is another one; `whole` with where the pointer rested. */
  function forget(whole = false): void {
    pointed.value = null;
    which.value = 0;
    if (whole) rested.value = [];
  }
  const again = () => void (pointer.value && point(pointer.value));

  return {
    pointed: shallowReadonly(pointed),
    pointer: shallowReadonly(pointer),
    which: readonly(which),
    moveTo,
    asPointed,
    point,
    again,
    nextInReach,
    forget,
    settled: pointing.settled,
  };
}
