/**
 * The sentence being written: typed and pointed at will. What may stand next, what pointing would write and what it would draw is
 * asked of the core; here is only which of it is meant.
 */
import { computed, nextTick, ref, shallowRef, watch } from "vue";
import { Refused } from "./engine";
import { newest } from "./newest";
import { useTurns } from "./turns";
import type { Choice, Kind, Pointed, Writing } from "./types";
import { beginOf, known, type Hold, type Pointer } from "./pointing";
import { whyOf, type BoardState } from "./useBoard";

const RESTS_MS = 450;
const MOST_RESTED = 4;
const TYPES_ON_MS = 300;

export function useSentence(board: BoardState, hold: () => Hold, layer: () => string) {
  const text = ref("");
  const caret = ref(0);
  /** The step in whose place it is written, or before which; null for the end. */
  const place = shallowRef<{ step: number; how: "change" | "before" } | null>(null);
  const writing = shallowRef<Writing | null>(null);
  /** The text that was read last. */
  const readOf = ref("");
  const pointed = shallowRef<Pointed | null>(null);
  const pointer = shallowRef<Pointer | null>(null);
  const which = ref(0);
  const refused = ref("");
  const kinds = shallowRef<Kind[]>([]);
  const recent = ref<string[]>([]);
  const matching = shallowRef<Kind[]>([]);
  const last = ref("");
  const rested = shallowRef<{ writes: string; x: number; y: number }[]>([]);
  const busy = ref(false);
  /** What was written ahead and then could not be taken: it waits here, while something else is being written. */
  const notTaken = shallowRef<{ says: string; why: string }[]>([]);
  const focusAsked = ref(0);
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

  async function loadKinds(): Promise<void> {
    if (!kinds.value.length) kinds.value = (await board.ask("offered")).kinds;
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
      if (choosing.value) await match();
    } catch (why) {
      if (says === text.value) refused.value = whyOf(why);
    }
  }

  function write(says: string, at = says.length): void {
    text.value = says;
    caret.value = at;
    pointed.value = null;
    refused.value = "";
    which.value = 0;
    void look();
    if (pointer.value) void point(pointer.value);
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
    focusAsked.value++;
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
    focusAsked.value++;
  }

  // what is pointed

  const pointing = newest(async (p: Pointer) => {
    const says = text.value;
    try {
      const found = await asPointed(p, says);
      if (says === text.value && pointer.value) pointed.value = found;
    } catch (why) {
      if (!(why instanceof Refused)) refused.value = whyOf(why);
    }
  });
  let rest: ReturnType<typeof setTimeout> | undefined;

  function point(p: Pointer | null): Promise<void> {
    pointer.value = p;
    clearTimeout(rest);
    if (!p || choosing.value || !text.value.trim()) {
      pointed.value = null;
      return Promise.resolve();
    }
    rest = setTimeout(takeRest, RESTS_MS);
    return pointing.ask(p);
  }

  const asPointed = (p: Pointer, says: string): Promise<Pointed> =>
    board.ask("point", {
      says,
      caret: caret.value,
      before: before(),
      x: p.at[0],
      y: p.at[1],
      reach: p.reach,
      pixel: p.pixel,
      which: which.value,
      rested: rested.value,
      ...hold(),
    });

  /** Where the pointer rests on something, guides level and plumb with it are caught from then on. */
  function takeRest(): void {
    const chosen = pointed.value?.choices[pointed.value.which];
    if (!chosen?.at || !["end", "centre", "middle", "quarter", "crossing", "point"].includes(chosen.kind))
      return;
    const one = { writes: chosen.says.replace(",", ""), x: chosen.at[0], y: chosen.at[1] };
    rested.value = [...rested.value.filter((r) => r.writes !== one.writes), one].slice(-MOST_RESTED);
  }

  function nextInReach(by = 1): void {
    const count = pointed.value?.choices.length ?? 0;
    if (!count || !pointer.value) return;
    which.value = (((which.value + by) % count) + count) % count;
    void point(pointer.value);
  }

  const { atWork, inTurn } = useTurns();

  /** Takes what is pointed into the sentence; one that is whole and cannot go on is taken at once. */
  async function pressOnce(p: Pointer): Promise<Choice | null> {
    if (choosing.value || !text.value.trim()) return null;
    await pointing.settled();
    pointer.value = p;
    const says = text.value;
    const found = await asPointed(p, says);
    if (!found.choices.length) return null;
    const chosen = found.choices[found.which] ?? null;
    // what was typed behind it meanwhile goes on behind what was pointed
    const typed = text.value.startsWith(says) ? text.value.slice(says.length) : "";
    const whole = found.preview?.whole === true && !found.preview.broken && !found.more && !typed;
    text.value = found.text + typed;
    caret.value = typed ? text.value.length : found.caret;
    pointed.value = null;
    which.value = 0;
    refused.value = "";
    if (whole) await takeOnce();
    else await look();
    focusAsked.value++;
    return chosen;
  }

  // taking it

  async function chooseOnce(says: string): Promise<void> {
    await look();
    if (text.value === says && writing.value?.whole && !writing.value.goes_on) await takeOnce();
    focusAsked.value++;
  }

  async function takeOnce(): Promise<boolean> {
    if (!text.value.trim()) return false;
    const says = text.value;
    const why = await accepted(says, place.value);
    if (why) refused.value = why;
    else if (text.value === says) letGo();
    void nextTick(() => focusAsked.value++);
    return !why;
  }

  /** Puts a sentence into the list; returns why it was not taken, nothing where it was. */
  async function accepted(written: string, at: typeof place.value): Promise<string> {
    const says = written.trim().replace(/[;·]\s*$/, "");
    busy.value = true;
    refused.value = "";
    try {
      if (at?.how === "change") await board.act("change", { step: at.step, says });
      else await board.act("write", { says, before: at?.step ?? null, layer: layer() });
      last.value = beginOf(kinds.value, says);
      return "";
    } catch (why) {
      return whyOf(why);
    } finally {
      busy.value = false;
    }
  }

  /** Takes what stands there although it has not been read yet, and frees the line: who types fast goes on. */
  function takeAhead(): Promise<void> {
    const [says, at] = [text.value, place.value];
    letGo();
    return inTurn(async () => {
      const why = await accepted(says, at);
      if (!why) return;
      // who types on does so by then: what is put back must not meet the next letter
      await new Promise((done) => setTimeout(done, TYPES_ON_MS));
      if (text.value.trim()) notTaken.value = [...notTaken.value, { says: says.trim(), why }];
      else {
        place.value = at;
        write(says);
        refused.value = why;
      }
    });
  }

  function letGo(): void {
    text.value = "";
    caret.value = 0;
    place.value = null;
    pointed.value = null;
    writing.value = null;
    refused.value = "";
    which.value = 0;
    rested.value = [];
    void look();
  }

  function sameAgain(): void {
    if (last.value) write(last.value);
    focusAsked.value++;
  }

  function edit(step: number, says: string): void {
    place.value = { step, how: "change" };
    write(says);
    focusAsked.value++;
  }
  function insertBefore(step: number): void {
    place.value = { step, how: "before" };
    write("");
    focusAsked.value++;
  }

  watch(hold, () => {
    if (pointer.value) void point(pointer.value);
  });

  return {
    text,
    caret,
    place,
    chosen,
    writing,
    pointed,
    pointer,
    which,
    refused,
    kinds,
    matching,
    last,
    busy,
    atWork,
    notTaken,
    open,
    choosing,
    focusAsked,
    loadKinds,
    write,
    begin,
    name,
    put,
    rubOut,
    point,
    press: (p: Pointer) => inTurn(() => pressOnce(p)),
    nextInReach,
    choose: (says: string) => {
      write(says);
      return inTurn(() => chooseOnce(says));
    },
    take: () => inTurn(takeOnce),
    takeAhead,
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
