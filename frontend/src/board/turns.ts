/** What hands do is done one after the other, however quick they are. */
import { ref } from "vue";

export function useTurns() {
  let last: Promise<unknown> = Promise.resolve();
  /** How much is still to be done. */
  const atWork = ref(0);
  function inTurn<T>(work: () => Promise<T>): Promise<T> {
    atWork.value++;
    const next = last.then(work, work).finally(() => atWork.value--);
    last = next.catch(() => undefined);
    return next;
  }
  return { atWork, inTurn };
}
