/** The keys of the board, where nothing else takes them. */
import { useEventListener } from "@vueuse/core";
import type { Ref } from "vue";
import type { Pointed } from "./types";
import type { LayersState } from "./useLayers";
import type { MeasureState } from "./useMeasure";
import type { SentenceState } from "./useSentence";
import { useLetterKeys } from "../useKeys";

export function useBoardKeys(on: {
  sentence: SentenceState;
  measure: MeasureState;
  layers: LayersState;
  chosen: Ref<string[]>;
  pointed: Readonly<Ref<Pointed | null>>;
  undo: () => unknown;
  redo: () => unknown;
  fit: () => void;
  /** Deletes what is chosen. */
  remove: () => unknown;
}): (e: KeyboardEvent) => void {
  const { sentence, measure, layers, chosen, pointed, undo, redo, fit, remove } = on;
  const letters = useLetterKeys();
  function key(e: KeyboardEvent): void {
    const target = e.target instanceof Element ? e.target : null;
    const writes = target?.closest("input, textarea, select");
    const held = e.ctrlKey || e.metaKey;
    const elsewhere = writes && !target?.closest("[data-sentence]");
    if (held && !e.altKey && ["z", "y"].includes(e.key.toLowerCase()) && !elsewhere) {
      e.preventDefault();
      void (e.key.toLowerCase() === "y" || e.shiftKey ? redo : undo)();
      return;
    }
    if (held || e.altKey || writes || e.defaultPrevented || target?.closest("[role=dialog], [role=menu]"))
      return;
    // WCAG 2.2, 2.1.4: what a single sign does can be switched off
    if (e.key.length === 1 && !letters.value) return;
    if (empty(e)) return;
    // what is typed while a sentence is open goes into it, wherever the focus is
    if (sentence.open.value && e.key.length === 1 && !measure.on.value && !target?.closest("button, a")) {
      sentence.askFocus();
      return;
    }
    if (e.key === "/") sentence.askFocus();
    else if ((e.key === "Delete" || e.key === "Backspace") && chosen.value.length) void remove();
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
  /** Keys that mean something wherever no sentence is begun, in its field too; says whether this was one. */
  function empty(e: KeyboardEvent): boolean {
    if (sentence.open.value || !"=/".includes(e.key) || e.key.length !== 1 || !letters.value) return false;
    e.preventDefault();
    if (e.key === "=") sentence.sameAgain();
    else sentence.askFocus();
    return true;
  }
  useEventListener(window, "keydown", key);
  return empty;
}
