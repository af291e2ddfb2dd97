/**
 * Measuring between two picks, each a place that is caught or a piece, or of what is closed round one press: changes nothing, and the
 * last results stay in a list.
 */
import { computed, ref, shallowRef } from "vue";
import { askPlace, catchAlone, placeWords } from "./asked";
import { newest } from "./newest";
import type { Pointed } from "./types";
import type { Hold, Pointer } from "./pointing";
import { whyOf, type BoardState } from "./useBoard";

export interface Measured {
  key: number;
  from: string;
  to: string;
  told: { name: string; shows: string }[];
  /** How a sentence says the distance, where it can. */
  writes: string;
}
const MOST_KEPT = 8;

export function useMeasure(board: BoardState, hold: () => Hold) {
  const on = ref(false);
  /** Whether one press asks for what is closed round it. */
  const inside = ref(false);
  const first = ref("");
  const pointed = shallowRef<Pointed | null>(null);
  const live = shallowRef<Measured["told"]>([]);
  const results = shallowRef<Measured[]>([]);
  const trouble = ref("");
  const which = ref(0);
  let pointer: Pointer | null = null;
  let made = 0;

  const at = (p: Pointer) => askPlace(board, hold(), p, which.value);
  /** What a pointer picks: what lies under it without a place of its own is picked as a whole. */
  function picked(found: Pointed): { writes: string; place: boolean } | null {
    const choice = found.choices[found.which];
    if (!choice) return null;
    const piece = choice.kind === "nearest" ? choice.on[0] : undefined;
    return piece ? { writes: piece, place: false } : { writes: placeWords(found), place: true };
  }
  const asked = newest(async (p: Pointer | null) => {
    try {
      const found = p && (await at(p));
      const pick = found && picked(found);
      const told = inside.value
        ? p && (await round(p)).told
        : first.value && pick
          ? await between(first.value, pick.writes)
          : [];
      if (!on.value || pointer !== p) return;
      pointed.value = found && catchAlone(found);
      live.value = told ?? [];
    } catch {
      live.value = [];
    }
  });
  const between = async (from: string, to: string) => (await board.ask("measure", { says: from, to })).told;

  /** The numbers of what is closed round a place, wherever it is: nothing is caught. */
  async function round(p: Pointer) {
    const says = placeWords(await askPlace(board, { ...hold(), off: true }, p));
    return { says, told: (await board.ask("measure", { says: `inside ${says}`, to: "" })).told };
  }

  async function press(p: Pointer): Promise<void> {
    trouble.value = "";
    try {
      if (inside.value) {
        const { says, told } = await round(p);
        const one = { key: ++made, from: `inside ${says}`, to: "", told, writes: "" };
        results.value = [one, ...results.value].slice(0, MOST_KEPT);
        return;
      }
      const pick = picked(await at(p));
      if (!pick) return;
      which.value = 0;
      if (!first.value) {
        first.value = pick.writes;
        return;
      }
      const [from, to] = [first.value, pick.writes];
      const told = await between(from, to);
      const piece = /^(edge|arc|circle) [\d.]+$/;
      const writes = piece.test(from) || piece.test(to) ? "" : `distance of (${from}) and (${to})`;
      results.value = [{ key: ++made, from, to, told, writes }, ...results.value].slice(0, MOST_KEPT);
    } catch (why) {
      trouble.value = whyOf(why);
    }
    letGo();
  }
  function letGo(): void {
    first.value = "";
    live.value = [];
    which.value = 0;
  }
  return {
    on,
    inside,
    measures(what: "between" | "inside"): void {
      inside.value = what === "inside";
      letGo();
    },
    first,
    pointed: computed(() => (on.value ? pointed.value : null)),
    live,
    results,
    trouble,
    press,
    letGo,
    point(p: Pointer | null): void {
      pointer = p;
      void asked.ask(p);
    },
    nextInReach(by = 1): void {
      const count = pointed.value?.choices.length ?? 0;
      if (!count || !pointer) return;
      which.value = (((which.value + by) % count) + count) % count;
      void asked.ask(pointer);
    },
    begin(): void {
      on.value = !on.value;
      pointed.value = null;
      letGo();
    },
    forget(key: number): void {
      results.value = results.value.filter((r) => r.key !== key);
    },
  };
}
export type MeasureState = ReturnType<typeof useMeasure>;
