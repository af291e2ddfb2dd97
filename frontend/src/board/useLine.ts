/**
 * The line of the sentence being written: its text and caret, what was written into it one thing after the other, and what goes on
 * behind something that was pressed.
 */
import { computed, ref } from "vue";

/** What was pressed last: the text with it, and how that goes on to its next slot where nobody points there. */
export interface PressedText {
  text: string;
  onward: string;
}
const MOST_BACK = 200;
/** What begins an item of its own behind one that was pressed: a number, a point in brackets, a wording. */
const BEGINS_ITEM = /^[\d.+\-−–(√½¼¾"Ø]/;

/** Returns a text with what is typed behind it: behind what was pressed a number begins the next item, a word stands apart. */
export function typedBehind(pressed: PressedText | null, text: string, typed: string): string {
  if (!pressed || pressed.text !== text || !typed.trim()) return text + typed;
  const apart = /\s$/.test(text) ? text : `${text} `;
  if (BEGINS_ITEM.test(typed)) return (pressed.onward || apart) + typed;
  return /^\p{L}/u.test(typed) ? apart + typed : text + typed;
}

/** Whether a text goes on within the word or number that was being typed. */
function sameWord(before: string, after: string): boolean {
  const [long, short] = after.length >= before.length ? [after, before] : [before, after];
  return long.startsWith(short) && !/[\s;]/.test(long.slice(short.length)) && short !== "";
}

export function useLine() {
  const text = ref("");
  const caret = ref(0);
  let pressed: PressedText | null = null;
  const past = ref<string[]>([]);
  const future = ref<string[]>([]);
  let typing = false;

  /** Writes a text; `how` says whether it was typed, so that a word is taken back at once, or stands for itself. */
  function set(says: string, at = says.length, how: "typed" | "whole" = "whole"): void {
    if (says !== text.value) {
      if (!(how === "typed" && typing && sameWord(text.value, says)))
        past.value = [...past.value, text.value].slice(-MOST_BACK);
      future.value = [];
      typing = how === "typed";
    }
    text.value = says;
    caret.value = at;
  }
  /** Takes what a hand typed into the field. */
  function type(says: string, at: number): void {
    const behind = says.startsWith(text.value) && at === says.length;
    const full = behind ? typedBehind(pressed, text.value, says.slice(text.value.length)) : says;
    set(full, behind ? full.length : at, "typed");
  }
  /** Takes signs between slots that were left out as if they had been typed. */
  function separate(says: string): void {
    text.value = says;
    caret.value = says.length;
  }
  /** The text with signs where the caret stands, and the caret behind them. */
  function withSigns(signs: string): [string, number] {
    const [head, tail] = [text.value.slice(0, caret.value), text.value.slice(caret.value)];
    const between = signs.startsWith(";") ? head.trimEnd() : head;
    return [between + signs + tail, between.length + signs.length];
  }
  /** The text without the sign before the caret; one between slots goes with its blank. */
  function lessOne(): [string, number] {
    const head = text.value.slice(0, caret.value);
    const less = head.endsWith("; ") ? head.slice(0, -2) : head.slice(0, -1);
    return [less + text.value.slice(caret.value), less.length];
  }
  /** Notes down that what stands there was pressed. */
  function press(onward: string): void {
    pressed = { text: text.value, onward };
  }
  function move(from: typeof past, to: typeof past): boolean {
    let left = from.value;
    while (left.at(-1) === text.value) left = left.slice(0, -1); // as it stands there, so that nothing would be seen of it
    const last = left.at(-1);
    from.value = left.slice(0, -1);
    if (last === undefined) return false;
    to.value = [...to.value, text.value];
    text.value = last;
    caret.value = last.length;
    typing = false;
    return true;
  }
  /** Begins with an empty line; what was written before cannot be gone back to. */
  function clear(): void {
    text.value = "";
    caret.value = 0;
    pressed = null;
    past.value = future.value = [];
    typing = false;
  }
  return {
    text,
    caret,
    set,
    type,
    withSigns,
    lessOne,
    press,
    separate,
    back: () => move(past, future),
    forward: () => move(future, past),
    canGoBack: computed(() => past.value.length > 0),
    canGoForward: computed(() => future.value.length > 0),
    clear,
  };
}
