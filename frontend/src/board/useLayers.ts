/** The layers of a drawing on the board: on which one is drawn next, and which are not shown. */
import { useStorage } from "@vueuse/core";
import { computed, readonly, ref } from "vue";
import type { LayerRow } from "./types";
import type { BoardState } from "./useBoard";

const CONSTRUCTION = "construction";

export function useLayers(id: number, board: BoardState) {
  const kept = useStorage<string[]>(`even-mark board ${id} hidden layers`, []);
  const hidden = computed(() => new Set(kept.value));
  /** The layer chosen for what is drawn next, until it is the one that was drawn on last. */
  const chosen = ref("");
  const current = computed(() => chosen.value || (board.view.value?.layer ?? "outline"));

  const rows = computed(() => board.view.value?.layers ?? []);
  function show(name: string, shown: boolean): void {
    kept.value = shown ? kept.value.filter((n) => n !== name) : [...new Set([...kept.value, name])];
  }
  /** Sets how a layer looks, or makes it. Raises what the core says. */
  const set = (row: Pick<LayerRow, "name" | "line">, says: string) =>
    board.act("line", {
      line: row.line,
      gone: row.line !== null,
      come: { kind: "layer", name: row.name, says },
    });
  return {
    hidden,
    current,
    chosen: readonly(chosen),
    rows,
    /** Layers that a shop usually has, of those that are not there yet. */
    usual: computed(() =>
      (board.view.value?.usual_layers ?? []).filter((name) => !rows.value.some((r) => r.name === name)),
    ),
    drawOn: (name: string) => (chosen.value = name),
    show,
    construction: () => show(CONSTRUCTION, hidden.value.has(CONSTRUCTION)),
    set,
  };
}
export type LayersState = ReturnType<typeof useLayers>;
