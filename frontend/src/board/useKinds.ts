/** Kinds of sentences: all there are, those that a word may mean, those that were used last. */
import { ref, shallowReadonly, shallowRef } from "vue";
import type { Kind } from "./types";
import type { BoardState } from "./useBoard";

const MOST_RECENT = 6;

export function useKinds(board: BoardState, says: () => string) {
  const kinds = shallowRef<Kind[]>([]);
  const matching = shallowRef<Kind[]>([]);
  const recent = ref<string[]>([]);

  async function match(): Promise<void> {
    const found = (await board.ask("find", { says: says().trim(), recent: recent.value })).kinds;
    const by = new Map(kinds.value.map((k) => [k.says, k]));
    matching.value = found.map((one) => by.get(one)).filter((k) => k !== undefined);
  }
  async function load(): Promise<void> {
    if (!kinds.value.length) kinds.value = (await board.ask("offered", {})).kinds;
    await match();
  }
  function used(kind: Kind): void {
    recent.value = [kind.says, ...recent.value.filter((r) => r !== kind.says)].slice(0, MOST_RECENT);
  }
  return {
    kinds: shallowReadonly(kinds),
    matching: shallowReadonly(matching),
    match,
    load,
    used,
  };
}
