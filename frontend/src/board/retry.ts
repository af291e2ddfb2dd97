/** Trying again: one timer, each wait twice the one before, a little uneven so that a class does not come back all at once. */
import { useEventListener } from "@vueuse/core";
import { onScopeDispose } from "vue";

const FIRST_MS = 1000;
const LONGEST_MS = 30_000;

/** `work` is tried again after `later()`, and as soon as the browser says that it is connected. Nothing is tried any more once the page is left. */
export function useRetry(work: () => Promise<unknown>) {
  let timer: ReturnType<typeof setTimeout> | undefined;
  let failed = 0;
  let ended = false;

  function now(): void {
    clearTimeout(timer);
    timer = undefined;
    if (!ended) void work().catch(() => undefined);
  }
  /** Arms the timer, where it is not armed; `atLeastMs` is what the server asked for. */
  function later(atLeastMs = 0): void {
    if (timer !== undefined || ended) return;
    const wait = Math.min(LONGEST_MS, FIRST_MS * 2 ** failed++) * (0.75 + Math.random() / 2);
    timer = setTimeout(now, Math.max(wait, atLeastMs));
  }
  function went(): void {
    clearTimeout(timer);
    timer = undefined;
    failed = 0;
  }
  useEventListener(window, "online", now);
  onScopeDispose(() => {
    ended = true;
    clearTimeout(timer);
  });
  return { now, later, went, waits: () => timer !== undefined };
}
export type Retry = ReturnType<typeof useRetry>;
