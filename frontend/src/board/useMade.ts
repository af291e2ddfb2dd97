/** How an attempt was made, as the page plays it: the board as it was after each thing that was done. */
import { computed, onScopeDispose, readonly, ref, shallowReadonly, shallowRef, watch } from "vue";
import { get, type Schemas } from "../api/client";
import { WorkerEngine } from "./engine";
import { newest } from "./newest";
import { backOf, spliced } from "./edits";
import type { KeptDocument, Edit, View } from "./types";
import { useShown } from "./useShown";

export type Deed = Schemas["MadeAct"];
const PLAYED_MS = 700;

export function useMade(attempt_id: number) {
  const shown = useShown();
  const made = shallowRef<Schemas["MadeOut"] | null>(null);
  const trouble = ref<unknown>(null);
  /** After how many of the acts the drawing is shown. */
  const at = ref(0);
  const plays = ref(false);
  let worker: WorkerEngine | null = null;
  let ended = false;
  let standing = -1; // where the worker's board stands
  const acts = computed(() => made.value?.acts ?? []);
  const splices = (n: number) => acts.value[n]?.splices as Edit[];

  function documentAt(count: number): KeptDocument {
    let document = made.value?.document as KeptDocument;
    for (let n = 0; n < count; n++) document = spliced(document, splices(n));
    return document;
  }
  const moved = newest(async (count: number) => {
    try {
      if (!worker || !shown.inWorker.value) {
        const found = await get("/api/attempts/{attempt_id}/made/{count}", { attempt_id, count });
        shown.take(found.answer as View, true);
      } else if (Math.abs(count - standing) === 1) {
        const change = count > standing ? splices(standing) : backOf(splices(count));
        shown.take((await worker.ask("apply", { splices: change })).view);
      } else shown.take(await worker.ask("open", { document: documentAt(count) }), true);
      standing = count;
    } catch (why) {
      trouble.value = why;
      plays.value = false;
    }
  });
  watch(at, (count) => void moved.ask(count));

  function startWorker(): void {
    if (typeof Worker === "undefined" || typeof WebAssembly === "undefined") return;
    const one = new WorkerEngine(() => shown.answers(false));
    worker = one;
    one.ready.then(
      () => {
        standing = -9; // the first is opened as a whole
        shown.answers(true);
      },
      () => one.end(),
    );
  }
  /** Reads one more part of a long history; whoever stands at its end goes along. */
  async function goOn(part: number): Promise<void> {
    const more = await get("/api/attempts/{attempt_id}/made", { attempt_id }, { part });
    if (!made.value) return;
    const atEnd = at.value === acts.value.length && !plays.value;
    made.value = { ...made.value, acts: [...made.value.acts, ...more.acts] };
    if (atEnd) at.value = acts.value.length;
  }
  async function open(): Promise<void> {
    trouble.value = null;
    try {
      made.value = await get("/api/attempts/{attempt_id}/made", { attempt_id });
      at.value = acts.value.length;
      await moved.ask(at.value);
      startWorker();
      for (let part = 1; part < made.value.parts && !ended; part++) await goOn(part);
    } catch (why) {
      trouble.value = why;
    }
  }

  let timer: ReturnType<typeof setTimeout> | undefined;
  function play(): void {
    if (at.value >= acts.value.length) at.value = 0;
    plays.value = true;
    timer = setTimeout(onward, PLAYED_MS);
  }
  async function onward(): Promise<void> {
    if (!plays.value) return;
    at.value = Math.min(at.value + 1, acts.value.length);
    await moved.settled();
    if (at.value >= acts.value.length) plays.value = false;
    else timer = setTimeout(() => void onward(), PLAYED_MS);
  }
  function stop(): void {
    plays.value = false;
    clearTimeout(timer);
  }
  function go(count: number): void {
    stop();
    at.value = Math.min(Math.max(count, 0), acts.value.length);
  }
  onScopeDispose(() => {
    ended = true;
    stop();
    worker?.end();
  });
  return {
    ...shown,
    made: shallowReadonly(made),
    acts,
    trouble: readonly(trouble),
    at: readonly(at),
    plays: readonly(plays),
    open,
    play,
    stop,
    go,
  };
}
