/**
 * The sentence being written: typed and pointed at will. What may stand next, what pointing would write and what it would draw is
 * asked of the core; here is only which of it is meant.
 */
import { computed, readonly, ref, shallowReadonly, shallowRef, watch } from "vue";
import { newest } from "./newest";
import { useTurns } from "./turns";
import type { Answer, Kind, Writing } from "./types";
import { patiently } from "./patient";
import { Refused } from "./engine";
import { beginOf, isRead, known, type Hold, type Pointer } from "./pointing";
import { whyOf, type BoardState } from "./useBoard";
import { useEntered } from "./useEntered";
import { useKinds } from "./useKinds";
import { useLine } from "./useLine";
import { useNaming } from "./useNaming";
import { usePointed } from "./usePointed";
import { usePresses } from "./usePresses";
import { usePressing } from "./usePressing";
import { useRefused } from "./useRefused";

/** On which layer is drawn: the one that was chosen, else the one that was drawn on last. */
export interface DrawnOn {
  chosen: () => string;
  current: () => string;
}

export function useSentence(board: BoardState, hold: () => Hold, layer: DrawnOn) {
  const { outbox } = board;
  const line = useLine();
  const presses = usePresses();
  const { text, caret } = line;
  /** The step in whose place it is written, or before which; null for the end. */
  const place = shallowRef<{ step: number; how: "change" | "before" } | null>(null);
  const writing = shallowRef<Writing | null>(null);
  /** The text that was read last. */
  const readOf = ref("");
  const { refused, refuse, typedOver } = useRefused(outbox, { text, writing, place: () => place.value });
  const { named, withNames } = useNaming(board);
  const { kinds, matching, match, load: loadKinds, used } = useKinds(board, () => text.value);
  const last = ref("");
  /** Whether what stands there could not be read, since nobody could be asked. */
  const unread = ref(false);
  /** What of the line is selected, so that it is written over. */
  const selected = shallowRef<[number, number] | null>(null);
  /** The layer that was chosen for this one step. */
  const own = ref("");
  const focusAsked = ref(0);
  const askFocus = () => void focusAsked.value++;
  /** The names of the pieces that are chosen. */
  const chosen = shallowRef<string[]>([]);

  const open = computed(() => text.value.trim().length > 0 || place.value !== null);
  /** Whether a kind of step is still looked for. */
  const choosing = computed(
    () =>
      !text.value.trim() ||
      (writing.value !== null && !isRead(writing.value) && !known(kinds.value, text.value)),
  );
  const before = () => place.value?.step ?? null;
  const hand = usePointed(
    board,
    hold,
    () => ({ says: text.value, caret: caret.value, before: before(), choosing: choosing.value }),
    (says) => (refused.value = says),
  );

  // what is typed

  /** Reads what stands there; while it is being read, only the newest is read next. */
  const reading = newest(lookOnce);
  const look = () => reading.ask(undefined);
  /** Waits until what stands there now was read: hands are quicker than answers. */
  const settled = () => reading.settled();
  const readAs = (says: string, at: number) =>
    board.ask("state", { says, caret: at, before: before(), layer: own.value || layer.current() });
  async function lookOnce(): Promise<void> {
    const says = text.value;
    try {
      if (!says.trim()) {
        writing.value = null;
        await match();
        return;
      }
      const found = await readAs(says, caret.value);
      if (says !== text.value) return;
      writing.value = found;
      if (found.text !== says && caret.value === says.length) line.separate(found.text);
      readOf.value = text.value;
      unread.value = false;
      if (choosing.value) await match();
    } catch (why) {
      if (says !== text.value) return;
      if (why instanceof Refused) refused.value = whyOf(why);
      else {
        unread.value = true; // it says nothing about the sentence: it is read as soon as somebody answers
        outbox.retry.later();
      }
    }
  }

  /** Reads the line once it has been changed. */
  function changed(): void {
    hand.forget();
    refused.value = "";
    void look();
    hand.again();
  }
  function write(says: string, at = says.length): void {
    line.set(says, at);
    changed();
  }
  function type(says: string, at: number): void {
    presses.typed(text.value, says, at);
    if (presses.any()) line.separate(says);
    else line.type(says, at);
    changed();
  }

  /** Takes back what was pressed or typed last in the line, or does it again; says whether there was something. */
  function within(which: "back" | "forward"): boolean {
    const did = line[which]();
    if (did) changed();
    return did;
  }

  /** Begins a kind of sentence; where it wants something drawn first, with what is chosen. */
  async function begin(kind: Kind): Promise<void> {
    used(kind);
    const begins = kind.begins;
    write(begins);
    askFocus();
    const says = await named(begins, before(), chosen.value);
    if (says && text.value === begins) write(says);
  }

  /** Writes the names of what lies in a window where the sentence wants what is drawn. */
  function name(names: readonly string[]): void {
    const says = withNames(text.value, writing.value, names);
    if (!says) return;
    write(says);
    askFocus();
  }

  const { atWork, inTurn } = useTurns();

  // taking it

  async function chooseOnce(says: string): Promise<void> {
    await look();
    if (text.value !== says) return askFocus(); // somebody has typed on behind it
    line.press(writing.value?.onward ?? "");
    if (writing.value?.whole && !writing.value.goes_on) {
      enter();
      await judgeNow();
    }
    askFocus();
  }

  /** Takes an answer as it is offered behind what stands there now: a hand may have typed on since it was shown. */
  function pick(offer: Answer): Promise<void> {
    if (readOf.value === text.value && !presses.any()) return choose(offer.text);
    const one = presses.begin();
    return inTurn(async () => {
      const { says } = presses.stood(one, text.value);
      const found = await patiently(() => readAs(says, says.length));
      const now = found.answers.find((a) => a.says === offer.says);
      const { behind, later } = presses.stood(one, text.value);
      if (!now) return;
      line.separate(says); // what is typed meanwhile is no thing of its own to be taken back
      write(now.text + behind + later);
      await chooseOnce(now.text);
    }).finally(() => presses.end(one));
  }
  function choose(says: string): Promise<void> {
    write(says);
    return inTurn(() => chooseOnce(says));
  }

  const { busy, judge, judgeNow } = useEntered(board, inTurn, {
    layer: layer.current,
    accepted: (says) => (last.value = beginOf(kinds.value, says)),
    then: async () => {
      if (!kinds.value.length) await loadKinds().catch(() => undefined);
      if (unread.value) await look();
      return !unread.value;
    },
  });
  /** Enters what stands there: the line is free at once for who types on, and it is judged in its turn. */
  function enter(): void {
    outbox.wait({ says: text.value, place: place.value, layer: layer.chosen(), own: own.value });
    letGo();
    askFocus();
  }
  /** Enters several lines, one behind the other, as they were pasted. */
  async function takeAll(lines: readonly string[]): Promise<void> {
    for (const says of lines) outbox.wait({ says, place: null, layer: layer.chosen() });
    letGo();
    await judge();
  }
  const pressed = usePressing({
    line,
    hand,
    presses,
    inTurn,
    look,
    enter,
    judgeNow,
    askFocus,
    refused,
    wants: () => !choosing.value && text.value.trim() !== "",
    canEnter: () => canEnter(),
    nothing: () =>
      writing.value?.needs && (refused.value = `Nothing here fits. Next: ${writing.value.needs}.`),
  });
  const canEnter = () => {
    const w = writing.value;
    return w?.whole === true && !w.preview.broken && readOf.value === text.value;
  };
  async function take(): Promise<void> {
    if (pressed.pressing()) await inTurn(() => Promise.resolve()); // what was pressed before stands in it
    if (!text.value.trim()) return;
    enter();
    await judge();
  }
  /** Whether what stands there was read as the drawing is now, so that it is known by now how it would be judged. */
  const isCurrent = () =>
    readOf.value === text.value && !unread.value && !outbox.sentences.value.length && !atWork.value;
  /** Takes the sentence back that was entered last and waits; says whether there was one. */
  function takeBack(): boolean {
    const one = outbox.sentences.value.at(-1);
    if (!one) return false;
    outbox.drop(one);
    if (!text.value.trim()) {
      place.value = one.place;
      write(one.says);
    }
    return true;
  }

  function letGo(): void {
    line.clear();
    own.value = "";
    place.value = null;
    hand.forget(true);
    writing.value = null;
    refused.value = "";
    void look();
  }

  function sameAgain(): void {
    if (last.value) write(last.value);
    askFocus();
  }

  /** Puts a sentence into the line as it was: what was written into it before is not known. */
  function bring(says: string, at: typeof place.value): void {
    line.clear();
    line.separate(says);
    place.value = at;
    changed();
    askFocus();
  }
  /** Corrects a step; `at` is where a number stands that is meant alone. */
  function edit(step: number, says: string, at?: [number, number]): void {
    bring(says, { step, how: "change" });
    selected.value = at ?? null;
  }
  function insertBefore(step: number): void {
    place.value = { step, how: "before" };
    write("");
    askFocus();
  }

  watch(hold, hand.again);
  // what is being written is kept, too: over a reload, the way back, a closed tab
  watch([text, place], ([says, at]) => outbox.isWriting(says.trim() ? { says, place: at } : null));
  watch(board.unfinished, (left) => {
    if (!left || text.value.trim()) return;
    const stands = !left.place || board.rows.value.some((r) => r.id === left.place?.step);
    bring(left.says, stands ? left.place : null);
  });

  return {
    text: readonly(text),
    caret: readonly(caret),
    place: shallowReadonly(place),
    chosen,
    writing: shallowReadonly(writing),
    pointed: hand.pointed,
    pointer: hand.pointer,
    which: hand.which,
    refused: readonly(refused),
    kinds,
    matching,
    last: readonly(last),
    busy,
    atWork,
    unread: readonly(unread),
    waits: outbox.sentences,
    notTaken: outbox.refused,
    forget: outbox.forget,
    takeBack,
    open,
    choosing,
    focusAsked: readonly(focusAsked),
    askFocus,
    loadKinds,
    drawOn: (name: string) => {
      own.value = name;
      void look();
    },
    write,
    type,
    within,
    canGoBack: line.canGoBack,
    canGoForward: line.canGoForward,
    takeAll,
    begin,
    name,
    put: (signs: string) => type(...line.withSigns(signs)),
    rubOut: () => type(...line.lessOne()),
    point: hand.point,
    ...pressed,
    nextInReach: hand.nextInReach,
    choose,
    pick,
    take,
    isCurrent,
    refuse,
    typedOver,
    readOf,
    settled: () => inTurn(settled),
    letGo,
    sameAgain,
    edit,
    selected: shallowReadonly(selected),
    bring,
    insertBefore,
  };
}
export type { Hold, Pointer };
export type SentenceState = ReturnType<typeof useSentence>;
