/**
 * The sentence being written: typed and pointed at will. What may stand next, what pointing would write and what it would draw is
 * asked of the core; here is only which of it is meant.
 */
import { computed, readonly, ref, shallowReadonly, shallowRef, watch } from "vue";
import { newest } from "./newest";
import { useTurns } from "./turns";
import type { Choice, Kind, Writing } from "./types";
import { beginOf, known, type Hold, type Pointer } from "./pointing";
import { whyOf, type BoardState } from "./useBoard";
import { useEntered } from "./useEntered";
import { usePointed } from "./usePointed";
import { unreachable } from "./useOutbox";

/** On which layer is drawn: the one that was chosen, else the one that was drawn on last. */
export interface DrawnOn {
  chosen: () => string;
  current: () => string;
}

export function useSentence(board: BoardState, hold: () => Hold, layer: DrawnOn) {
  const { outbox } = board;
  const text = ref("");
  const caret = ref(0);
  /** The step in whose place it is written, or before which; null for the end. */
  const place = shallowRef<{ step: number; how: "change" | "before" } | null>(null);
  const writing = shallowRef<Writing | null>(null);
  /** The text that was read last. */
  const readOf = ref("");
  const refused = ref("");
  const kinds = shallowRef<Kind[]>([]);
  const recent = ref<string[]>([]);
  const matching = shallowRef<Kind[]>([]);
  const last = ref("");
  /** Whether what stands there could not be read, since nobody could be asked. */
  const unread = ref(false);
  /** What was refused where it stands, and not changed since. */
  const refusedHere = ref("");
  const focusAsked = ref(0);
  const askFocus = () => void focusAsked.value++;
  /** The names of the pieces that are chosen. */
  const chosen = shallowRef<string[]>([]);

  const open = computed(() => text.value.trim().length > 0 || place.value !== null);
  /** Whether a kind of step is still looked for. */
  const choosing = computed(
    () =>
      !text.value.trim() ||
      (writing.value !== null && !writing.value.spans.length && !known(kinds.value, text.value)),
  );
  const before = () => place.value?.step ?? null;
  const hand = usePointed(
    board,
    hold,
    () => ({ says: text.value, caret: caret.value, before: before(), choosing: choosing.value }),
    (says) => (refused.value = says),
  );

  async function loadKinds(): Promise<void> {
    if (!kinds.value.length) kinds.value = (await board.ask("offered", {})).kinds;
    await match();
  }
  async function match(): Promise<void> {
    const found = (await board.ask("find", { says: text.value.trim(), recent: recent.value })).kinds;
    const by = new Map(kinds.value.map((k) => [k.says, k]));
    matching.value = found.map((says) => by.get(says)).filter((k) => k !== undefined);
  }

  // what is typed

  /** Reads what stands there; while it is being read, only the newest is read next. */
  const reading = newest(lookOnce);
  const look = () => reading.ask(undefined);
  /** Waits until what stands there now was read: hands are quicker than answers. */
  const settled = () => reading.settled();
  async function lookOnce(): Promise<void> {
    const says = text.value;
    try {
      if (!says.trim()) {
        writing.value = null;
        await match();
        return;
      }
      const found = await board.ask("state", { says, caret: caret.value, before: before() });
      if (says !== text.value) return;
      writing.value = found;
      readOf.value = says;
      unread.value = false;
      if (choosing.value) await match();
    } catch (why) {
      if (says !== text.value) return;
      unread.value = unreachable(why);
      if (!unread.value) refused.value = whyOf(why);
    }
  }

  function write(says: string, at = says.length): void {
    text.value = says;
    caret.value = at;
    hand.forget();
    refused.value = "";
    void look();
    hand.again();
  }

  /** Puts signs where the caret stands. */
  function put(signs: string): void {
    const [head, tail] = [text.value.slice(0, caret.value), text.value.slice(caret.value)];
    const between = signs.startsWith(";") ? head.trimEnd() : head;
    write(between + signs + tail, between.length + signs.length);
  }
  function rubOut(): void {
    const head = text.value.slice(0, caret.value);
    const less = head.endsWith("; ") ? head.slice(0, -2) : head.slice(0, -1);
    write(less + text.value.slice(caret.value), less.length);
  }

  /** Begins a kind of sentence; where it wants something drawn first, with what is chosen. */
  async function begin(kind: Kind): Promise<void> {
    recent.value = [kind.says, ...recent.value.filter((r) => r !== kind.says)].slice(0, 6);
    const begins = kind.begins;
    write(begins);
    askFocus();
    if (!chosen.value.length) return;
    const wants = (await board.ask("state", { says: begins, before: before() })).wants;
    if (!wants.some((w) => w.kind === "things") || text.value !== begins) return;
    const named = (await board.ask("tell", { names: chosen.value })).chosen.map((c) => c.name);
    if (text.value === begins) write(`${begins}${named.join(" and ")} `);
  }

  /** Writes the names of what lies in a window where the sentence wants what is drawn. */
  function name(names: readonly string[]): void {
    const w = writing.value;
    if (!names.length || !w?.wants.some((x) => x.kind === "things")) return;
    const head = text.value.slice(0, w.begin);
    write(`${head}${head && !/\s$/.test(head) ? " " : ""}${names.join(" and ")}`);
    askFocus();
  }

  const { atWork, inTurn } = useTurns();

  /** Takes what is pointed into the sentence; one that is whole and cannot go on is taken at once. */
  async function pressOnce(p: Pointer): Promise<Choice | null> {
    if (choosing.value || !text.value.trim()) return null;
    await hand.settled();
    hand.moveTo(p);
    const says = text.value;
    const found = await hand.asPointed(p);
    if (!found.choices.length) return null;
    const chosen = found.choices[found.which] ?? null;
    // what was typed behind it meanwhile goes on behind what was pointed
    const typed = text.value.startsWith(says) ? text.value.slice(says.length) : "";
    const whole = found.preview?.whole === true && !found.preview.broken && !found.more && !typed;
    text.value = found.text + typed;
    caret.value = typed ? text.value.length : found.caret;
    hand.forget();
    refused.value = "";
    if (whole) {
      enter();
      await judgeNow();
    } else await look();
    askFocus();
    return chosen;
  }

  // taking it

  async function chooseOnce(says: string): Promise<void> {
    await look();
    if (text.value === says && writing.value?.whole && !writing.value.goes_on) {
      enter();
      await judgeNow();
    }
    askFocus();
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
    outbox.wait({ says: text.value, place: place.value, layer: layer.chosen() });
    letGo();
    askFocus();
  }
  async function take(): Promise<void> {
    if (!text.value.trim()) return;
    enter();
    await judge();
  }
  /** Whether what stands there was read as the drawing is now, so that it is known by now how it would be judged. */
  const isCurrent = () =>
    readOf.value === text.value && !unread.value && !outbox.sentences.value.length && !atWork.value;
  /** Says why what stands there is not taken. It stays, and where somebody types over it, it is set aside. */
  function refuse(): void {
    const w = writing.value;
    refused.value =
      w?.wrong?.says || w?.preview.broken || (w?.needs ? `It wants ${w.needs}.` : "It is not whole yet.");
    refusedHere.value = text.value;
  }
  function typedOver(): void {
    if (refusedHere.value !== text.value || !refused.value) return;
    outbox.refuse({ says: text.value.trim(), place: place.value, layer: "" }, refused.value);
  }

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
    text.value = "";
    caret.value = 0;
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

  function edit(step: number, says: string): void {
    place.value = { step, how: "change" };
    write(says);
    askFocus();
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
    place.value = stands ? left.place : null;
    write(left.says);
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
    kinds: shallowReadonly(kinds),
    matching: shallowReadonly(matching),
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
    write,
    begin,
    name,
    put,
    rubOut,
    point: hand.point,
    press: (p: Pointer) => inTurn(() => pressOnce(p)),
    nextInReach: hand.nextInReach,
    choose: (says: string) => {
      write(says);
      return inTurn(() => chooseOnce(says));
    },
    take,
    isCurrent,
    refuse,
    typedOver,
    readOf,
    settled: () => inTurn(settled),
    letGo,
    sameAgain,
    edit,
    insertBefore,
  };
}
export type { Hold, Pointer };
export type SentenceState = ReturnType<typeof useSentence>;
