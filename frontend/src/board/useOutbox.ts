/**
 * What was done on a board and waits until the server has it: kept in this browser before anything else, sent in order, tried again
 * by one timer that ends with the page. Where another page went on from the same version, both lists are shown, to choose from.
 */
import { onScopeDispose, readonly, ref, shallowReadonly, shallowRef } from "vue";
import { Refusal, saysOf } from "../api/client";
import { useRetry } from "./retry";
import { spliced } from "./edits";
import { beforeAll, between, without, wordsOf } from "./without";
import type { KeptDocument, Edit } from "./types";
import { NOTHING, type NotTaken, type Unfinished, type Unsent, type UnsentPlace, type Waits } from "./unsent";

/** A board as the server has it. */
export interface OnServer {
  version: number;
  document: KeptDocument;
}
/** What the outbox asks of the server. */
export interface Post {
  acts(base: number, acts: Edit[][]): Promise<{ version: number; room?: string }>;
  part(base: number, take: "mine" | "kept", document: KeptDocument): Promise<{ version: number }>;
  found(): Promise<OnServer>;
}
export interface TwoLists {
  mine: KeptDocument;
  kept: KeptDocument;
  base: number;
}

const MOST_SENT = 200;
/** Of one request, well below what the server takes. */
const MOST_LETTERS = 1_500_000;

/** Whether somebody could not be asked, or the session has ended, so that it is worth asking again. */
export function unreachable(why: unknown): boolean {
  return (
    why instanceof Refusal &&
    ([0, 401].includes(why.status) || why.status >= 500 || ["crowded", "away"].includes(why.code))
  );
}

/** Whether the server will never take an act as it is, whatever becomes of the others. */
const neverTaken = (why: unknown): boolean =>
  why instanceof Refusal && [413, 422].includes(why.status) && why.code !== NO_ROOM;
/** Nothing more may be added to the board, but something taken away. */
const NO_ROOM = "no-room";

export function useOutbox(post: Post, place: UnsentPlace, changed: (version: number) => void) {
  const saving = ref<"saved" | "saving" | "waiting" | "refused">("saved");
  /** What is to be said of the room that is left for this drawing. */
  const room = ref("");
  /** Why what was done last is not saved yet. */
  const unsaved = ref("");
  /** Whether this browser could keep what waits. */
  const keeps = ref(true);
  const parted = shallowRef<TwoLists | null>(null);
  /** Sentences that nobody could judge yet, in the order in which they were entered. */
  const sentences = shallowRef<readonly Waits[]>([]);
  /** Sentences that were judged by then, and could not be added. */
  const refused = shallowRef<readonly NotTaken[]>([]);

  let version = 0;
  let document: KeptDocument = { format: "even-mark/steps", version: 1, next: 1, lines: [] };
  let waiting: Edit[][] = [];
  let writing: Unfinished | null = null;
  let sending: Promise<void> | null = null;
  let judge: () => Promise<boolean> = () => Promise.resolve(true);
  /** Acts are sent one by one until the one is found that is not taken. */
  let single = false;
  let noRoom = false;
  /** Why the first of the acts that wait is not taken. */
  let notTaken = "";
  let asidePut: () => void = () => setAside();

  const retry = useRetry(async () => {
    await flush();
    if (await judge()) retry.went();
  });

  function keep(): void {
    keeps.value = place.keep({
      base: version,
      acts: waiting,
      document: waiting.length ? document : null,
      sentences: sentences.value,
      refused: refused.value,
      writing,
    });
  }

  /** Takes the list as the server has it, where nothing waits that was done to another one. */
  function opened(found: OnServer): void {
    if (waiting.length) return;
    version = found.version;
    document = found.document;
    saving.value = "saved";
  }

  /** Notes down what was done, with the sentence that it was if one waited, so that nothing of it can be lost; and sends it. */
  function took(splices: Edit[], sentence?: Waits): void {
    document = spliced(document, splices);
    waiting = [...waiting, splices];
    if (noRoom) waiting = between(beforeAll(document, waiting), document); // what is taken away again needs none
    if (sentence) sentences.value = sentences.value.filter((s) => s !== sentence);
    keep();
    if (!retry.waits()) flush().catch(() => undefined);
  }

  function wait(sentence: Waits): void {
    sentences.value = [...sentences.value, sentence];
    keep();
  }
  /** Takes a sentence out of those that wait: it was judged, or is not wanted any more. */
  function drop(sentence: Waits): void {
    sentences.value = sentences.value.filter((s) => s !== sentence);
    keep();
  }
  /** Sets a sentence that could not be added beside the others of its kind. */
  function refuse(sentence: Waits, why: string, readings: readonly string[] = []): void {
    refused.value = [
      ...refused.value,
      { says: sentence.says, why, ...(readings.length ? { readings } : {}) },
    ];
    drop(sentence);
  }
  function forget(one: NotTaken): void {
    refused.value = refused.value.filter((r) => r !== one);
    keep();
  }
  function isWriting(unfinished: Unfinished | null): void {
    if (!unfinished && !writing) return;
    writing = unfinished;
    keep();
  }

  /** Sends what waits. Throws why it could not be sent; it is tried again by itself. */
  function flush(): Promise<void> {
    if (!waiting.length || parted.value) return Promise.resolve();
    sending ??= send().finally(() => {
      sending = null;
    });
    return sending;
  }

  function nextActs(): Edit[][] {
    if (single) return waiting.slice(0, 1);
    let letters = 0;
    const most = waiting.slice(0, MOST_SENT);
    const end = most.findIndex((act) => (letters += JSON.stringify(act).length) > MOST_LETTERS);
    return end < 0 ? most : most.slice(0, Math.max(end, 1));
  }

  async function send(): Promise<void> {
    while (waiting.length) {
      if (saving.value === "saved") saving.value = "saving";
      const acts = nextActs();
      try {
        const saved = await post.acts(version, acts);
        waiting = waiting.slice(acts.length);
        version = saved.version;
        noRoom = false;
        room.value = saved.room ?? "";
        keep();
        saving.value = waiting.length ? "saving" : "saved";
        unsaved.value = "";
        retry.went();
        if (!waiting.length) changed(version);
      } catch (why) {
        if (why instanceof Refusal && why.code === "parted") {
          await part();
          return;
        }
        if (neverTaken(why) && acts.length > 1) {
          single = true;
          continue;
        }
        const again = unreachable(why);
        saving.value = again ? "waiting" : "refused";
        unsaved.value = saysOf(why);
        noRoom = why instanceof Refusal && why.code === NO_ROOM;
        if (neverTaken(why)) {
          single = false;
          notTaken = unsaved.value;
          asidePut();
        }
        // what the server will not take is not asked of it again by itself, but with what is done next
        if (again) retry.later(why instanceof Refusal && why.status ? why.after * 1000 : 0);
        throw why;
      }
    }
  }

  /** Takes the act that the server will never take out of those that wait, and sets what it was about beside the line; the others go on. */
  function setAside(): boolean {
    const [first, ...rest] = waiting;
    if (!first || !notTaken) return false;
    const before = beforeAll(document, waiting);
    waiting = without(before, first, rest);
    document = waiting.reduce((list, act) => spliced(list, act), before);
    refused.value = [...refused.value, ...wordsOf(first).map((says) => ({ says, why: notTaken }))];
    notTaken = "";
    saving.value = waiting.length ? "saving" : "saved";
    keep();
    const goOn = () => flush().catch(() => undefined);
    void (sending ?? Promise.resolve()).then(goOn, goOn); // what was refused is still on its way back
    return true;
  }

  async function part(): Promise<void> {
    try {
      const found = await post.found();
      parted.value = { mine: document, kept: found.document, base: found.version };
      saving.value = "waiting";
    } catch (why) {
      saving.value = "waiting";
      unsaved.value = saysOf(why);
      retry.later();
      throw why;
    }
  }

  /** Goes on with one of two lists; the server sets the other aside. Where the kept one went on meanwhile, it is shown again. */
  async function choose(which: "mine" | "kept"): Promise<boolean> {
    const two = parted.value;
    if (!two) return false;
    try {
      version = (await post.part(two.base, which, two.mine)).version;
    } catch (why) {
      if (!(why instanceof Refusal) || why.code !== "parted") throw why;
      await part();
      return false;
    }
    waiting = [];
    parted.value = null;
    saving.value = "saved";
    unsaved.value = "";
    keep();
    changed(version);
    return true;
  }

  /**
   * Takes on what pages that are gone have left of this board: acts are sent, or lead to a choice; sentences wait here; the one that was
   * being written is returned. Says whether the list is another one for it.
   */
  async function takeOver(): Promise<{ acts: boolean; writing: Unfinished | null }> {
    const left: Unsent = (await place.takeOver()) ?? NOTHING;
    sentences.value = [...sentences.value, ...left.sentences];
    refused.value = [...refused.value, ...left.refused];
    writing ??= left.writing;
    if (left.acts.length && left.document) {
      version = left.base;
      document = left.document;
      waiting = left.acts;
      keep();
      await flush().catch(() => undefined);
    } else keep();
    return { acts: left.acts.length > 0, writing: left.writing };
  }

  onScopeDispose(() => {
    if (waiting.length && !parted.value) flush().catch(() => undefined); // a last try, while it is left
    place.leave();
  });

  return {
    saving: readonly(saving),
    unsaved: readonly(unsaved),
    room: readonly(room),
    keeps: readonly(keeps),
    parted: shallowReadonly(parted),
    sentences: shallowReadonly(sentences),
    refused: shallowReadonly(refused),
    retry,
    version: () => version,
    document: () => document,
    waiting: () => waiting.length,
    /** How sentences that wait are judged, once somebody may be there who can; answers whether none waits any more. */
    judges: (work: () => Promise<boolean>) => (judge = work),
    judge: () => judge(),
    /** How a list is shown again that an act was set aside of. */
    setsAside: (work: () => void) => (asidePut = work),
    setAside,
    opened,
    took,
    wait,
    drop,
    refuse,
    forget,
    isWriting,
    flush,
    choose,
    takeOver,
    live: () => place.live(),
  };
}
export type Outbox = ReturnType<typeof useOutbox>;
