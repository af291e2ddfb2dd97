/** Keys of a page: letters for what is done often, which can be switched off (WCAG 2.2, 2.1.4), and undo as everywhere. */
import { useEventListener, useStorage } from "@vueuse/core";

type Acts = Record<string, () => unknown>;
const letters = useStorage("even-mark letter keys", true);

/** Whether single letters do something; kept in this browser. */
export const useLetterKeys = () => letters;

const WRITES = "input, textarea, select, [contenteditable]";
const HAS_KEYS = "[role=menu], [role=radiogroup], [role=listbox], [role=dialog], [aria-haspopup]";

/**
 * `acts` gives what each key does, by its name as browsers have it; `control` the same with the control or command key held, with
 * "shift " before it where shift is held too. Nothing happens where something is being written, or where a menu or dialog has its own keys.
 */
export function useKeys(
  acts: () => Acts,
  control: () => Acts = () => ({}),
  off: () => boolean = () => false,
): void {
  useEventListener(window, "keydown", (e: KeyboardEvent) => {
    const target = e.target instanceof Element ? e.target : null;
    if (off() || e.altKey || e.defaultPrevented || target?.closest(WRITES)) return;
    const held = e.ctrlKey || e.metaKey;
    if (!held && target?.closest(HAS_KEYS)) return;
    if (!held && e.key.length === 1 && !letters.value) return;
    const act = held ? control()[(e.shiftKey ? "shift " : "") + e.key.toLowerCase()] : acts()[e.key];
    if (!act) return;
    e.preventDefault();
    void act();
  });
}

/** Keeps the enter key from sending the form that a row of choices stands in: there it chooses, and nothing more. */
export function stayOnEnter(e: KeyboardEvent): void {
  if (!(e.target instanceof Element) || e.target.getAttribute("role") !== "radio") return;
  e.preventDefault();
  e.stopPropagation();
}
