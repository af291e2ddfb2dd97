/** What a correction would do to all that follows, before it is taken: tried on the drawing and taken back at once. */
import { shallowRef, watch } from "vue";
import { newest } from "./newest";
import type { Answers, Piece } from "./types";
import type { BoardState } from "./useBoard";
import type { SentenceState } from "./useSentence";

export interface Trial {
  /** Pieces as they would be, and the names of those that would be other ones or go. */
  pieces: Piece[];
  gone: string[];
  /** Why steps would break that stand now. */
  broken: { number: number; why: string }[];
}

export function trialOf(board: BoardState, found: Answers["try"]): Trial {
  const stood = new Set(board.rows.value.filter((r) => !r.broken).map((r) => r.key));
  const broken = found.view.rows.filter((r) => r.broken && stood.has(r.key));
  return {
    pieces: found.view.pieces,
    gone: [...found.view.gone, ...found.view.pieces.map((p) => p.id)],
    broken: broken.map((r) => ({ number: r.number ?? 0, why: r.broken ?? "" })),
  };
}

export function useTrial(board: BoardState, sentence: SentenceState) {
  const trial = shallowRef<Trial | null>(null);
  const asked = newest(async ({ step, says }: { step: number; says: string }) => {
    const found = await board.ask("try", { call: "change", step, says }).catch(() => null);
    if (sentence.place.value?.step === step && sentence.text.value === says)
      trial.value = found && trialOf(board, found);
  });
  watch([sentence.writing, sentence.place], () => {
    const at = sentence.place.value;
    const says = sentence.text.value;
    const read = sentence.readOf.value === says && sentence.writing.value?.whole;
    const row = board.rows.value.find((r) => r.id === at?.step);
    if (at?.how !== "change" || !read || row?.says === says) trial.value = null;
    else void asked.ask({ step: at.step, says });
  });
  return trial;
}
