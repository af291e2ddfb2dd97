/** What is lit on the drawing without being chosen: what a step under the pointer has made, what the sentence names. */
import { computed, ref } from "vue";
import { piecesNamed } from "./listed";
import type { BoardState } from "./useBoard";
import type { SentenceState } from "./useSentence";

export function useLit(board: BoardState, sentence: SentenceState) {
  /** The step under the pointer in the list. */
  const over = ref<number | null>(null);
  const lit = computed(() => {
    const named = sentence.open.value ? (sentence.writing.value?.named ?? []) : [];
    const step = over.value;
    if (step === null) return new Set(named);
    return new Set([...named, ...piecesNamed(board.pieces.value.keys(), { kind: "step", step, part: null })]);
  });
  return { over, lit };
}
