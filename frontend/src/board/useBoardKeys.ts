/** The keys of the board, where nothing else takes them. */
import { useEventListener } from "@vueuse/core";
import type { Ref } from "vue";
import type { Pointed } from "./types";
import type { BoardState } from "./useBoard";
import type { Tried } from "./useChosen";
import type { LayersState } from "./useLayers";
import type { MeasureState } from "./useMeasure";
import type { SentenceState } from "./useSentence";
import { useLetterKeys } from "../useKeys";

export function useBoardKeys(on: {
  board: BoardState;
  sentence: SentenceState;
  measure: MeasureState;
  layers: LayersState;
  chosen: Ref<string[]>;
  pointed: Readonly<Ref<Pointed | null>>;
  tried: Tried;
  undo: () => unknown;
  fit: () => void;
}): void {
  const { board, sentence, measure, layers, chosen, pointed, tried, undo, fit } = on;
  const letters = useLetterKeys();
  function key(e: KeyboardEvent): void {
    const target = e.target instanceof Element ? e.target : null;
    const writes = target?.closest("input, textarea, select");
    const held = e.ctrlKey || e.metaKey;
    if (held && !e.altKey && ["z", "y"].includes(e.key.toLowerCase()) && !(writes && sentence.text.value)) {
      e.preventDefault();
      if (e.key.toLowerCase() === "y" || e.shiftKey) void tried(board.redo);
      else void undo();
      return;
    }
    if (held || e.altKey || writes || e.defaultPrevented || target?.closest("[role=dialog], [role=menu]"))
      return;
    // WCAG 2.2, 2.1.4: what a single sign does can be switched off
    if (e.key.length === 1 && !letters.value) return;
    if (e.key === "/") sentence.askFocus();
    else if (e.key === "=") sentence.sameAgain();
    else if (e.key === ".") layers.construction();
    else if (e.key === ",") measure.begin();
    else if (e.key === "Escape") {
      if (measure.first.value) measure.letGo();
      else if (measure.on.value) measure.begin();
      else if (sentence.open.value) sentence.letGo();
      else chosen.value = [];
    } else if (e.key === "Tab" && pointed.value)
      (measure.on.value ? measure : sentence).nextInReach(e.shiftKey ? -1 : 1);
    else if (e.key === "0") fit();
    else if (/^[a-z]$/i.test(e.key)) {
      sentence.askFocus();
      return; // the letter goes into the sentence
    } else return;
    e.preventDefault();
  }
  useEventListener(window, "keydown", key);
}
