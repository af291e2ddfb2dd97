/** What is chosen on the board: pieces pressed, steps of the list, what lies in a window. */
import { computed, ref, shallowRef, watch } from "vue";
import type { Point } from "../view";
import { askAt } from "./asked";
import { kindCalled } from "./listed";
import { newest } from "./newest";
import type { Chosen, Piece } from "./types";
import type { BoardState } from "./useBoard";
import type { Hold } from "./pointing";
import type { Pointer, SentenceState } from "./useSentence";

const MOST_CHOSEN = 500;
export type Tried = <T>(work: () => Promise<T>) => Promise<T | undefined>;
const stepOf = (name: string) => Number(/ (\d+)\./.exec(name)?.[1] ?? 0);

export function useChosen(board: BoardState, sentence: SentenceState, hold: () => Hold, tried: Tried) {
  const chosen = sentence.chosen;
  const chosenSet = computed(() => new Set(chosen.value));
  const chosenSteps = computed(() => new Set(chosen.value.map(stepOf)));
  const steps = computed(() => board.rows.value.filter((r) => r.kind === "step"));

  function chooseStep(step: number, more: boolean): void {
    const names = [...board.pieces.value.values()].filter((p) => p.step === step).map((p) => p.id);
    const shown = names.length ? names : [`step ${step}.0`];
    chosen.value = more ? [...new Set([...chosen.value, ...names])] : shown;
  }
  async function pressed(p: Pointer, more: boolean): Promise<void> {
    if (sentence.open.value && !sentence.choosing.value) {
      chosen.value = [];
      await tried(() => sentence.press(p));
      return;
    }
    const found = await tried(() => askAt(board, "erase ", hold(), p));
    const on = found?.choices.find((c) => c.kind === "feature")?.on ?? [];
    const name = on[0];
    if (!name) chosen.value = more ? chosen.value : [];
    else if (!more) chosen.value = [name];
    else if (chosenSet.value.has(name)) chosen.value = chosen.value.filter((n) => n !== name);
    else chosen.value = [...chosen.value, name];
  }
  async function inWindow(from: Point, to: Point, more: boolean, touches: boolean): Promise<void> {
    const { hidden } = hold();
    const found = await tried(() =>
      board.ask("window", { x: from[0], y: from[1], x2: to[0], y2: to[1], touches, hidden }),
    );
    if (!found) return;
    if (sentence.open.value && !sentence.choosing.value) {
      sentence.name(found.names);
      return;
    }
    const ids = new Map(steps.value.map((r) => [r.number, r.id]));
    const names = found.names.map((name) => {
      const [kind = "", place = ""] = name.split(" ");
      const [n, part = "1"] = place.split(".");
      return `${kindCalled(kind)} ${ids.get(Number(n))}.${part}`;
    });
    chosen.value = more ? [...new Set([...chosen.value, ...names])] : names;
  }
  /** Chooses all pieces of a kind, or on a layer. */
  function chooseAll(which: (p: Piece) => boolean): void {
    const hidden = new Set(hold().hidden);
    chosen.value = [...board.pieces.value.values()]
      .filter((p) => which(p) && !hidden.has(p.layer))
      .slice(0, MOST_CHOSEN)
      .map((p) => p.id);
  }
  /** What is chosen, with its numbers. */
  const told = shallowRef<Chosen[]>([]);
  const together = ref("");
  const tell = newest(async () => {
    const names = chosen.value.filter((n) => !n.endsWith(".0"));
    try {
      const found = names.length ? await board.ask("tell", { names }) : { chosen: [], together: "" };
      told.value = found.chosen;
      together.value = found.together;
    } catch {
      told.value = []; // gone meanwhile
    }
  });
  watch([chosen, board.rows], () => void tell.ask(undefined));
  watch(board.pieces, (now) => {
    chosen.value = chosen.value.filter((n) => now.has(n) || n.endsWith(".0"));
  });

  return { told, together, chosen, chosenSet, chosenSteps, chooseStep, chooseAll, pressed, inWindow };
}
export type ChosenState = ReturnType<typeof useChosen>;
