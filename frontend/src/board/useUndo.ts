/** Undo and redo, by press and word within the sentence, then by sentence, then by step; redo goes the same way back. */
import { ref } from "vue";
import type { Tried } from "./useChosen";
import type { BoardState } from "./useBoard";
import type { SentenceState } from "./useSentence";

type Undone = { what: "word" } | { what: "step" } | { what: "sentence"; bring: () => void };

export function useUndo(board: BoardState, sentence: SentenceState, tried: Tried) {
  const undone = ref<Undone[]>([]);

  async function undo(): Promise<void> {
    if (sentence.pressing()) await sentence.settled(); // what was pressed is there to be taken back
    if (sentence.within("back")) {
      undone.value.push({ what: "word" });
      return;
    }
    if (sentence.open.value) {
      const place = sentence.place.value;
      const says = sentence.text.value;
      sentence.letGo();
      undone.value.push({ what: "sentence", bring: () => sentence.bring(says, place) });
      return;
    }
    if (sentence.takeBack() || !board.done.value) return;
    const before = board.undone.value;
    await tried(board.undo);
    if (board.undone.value > before) undone.value.push({ what: "step" });
  }
  async function redo(): Promise<void> {
    if (sentence.pressing()) await sentence.settled();
    for (let last = undone.value.pop(); last; last = undone.value.pop()) {
      if (last.what === "word" && sentence.within("forward")) return;
      if (last.what === "sentence" && !sentence.open.value) {
        last.bring();
        return;
      }
      if (last.what === "step" && board.undone.value) break;
    }
    if (board.undone.value) await tried(board.redo);
  }
  return { undo, redo };
}
