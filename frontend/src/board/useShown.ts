/** What a board shows: rows, pieces and all else of a view, kept up to date by what has changed in it. */
import { readonly, ref, shallowReadonly, shallowRef } from "vue";
import type { Piece, Row, View } from "./types";

export function useShown() {
  const rows = shallowRef<Row[]>([]);
  const pieces = shallowRef<ReadonlyMap<string, Piece>>(new Map());
  const view = shallowRef<View | null>(null);
  const inWorker = ref(false);

  /** Takes what has changed; ``whole`` where it is all that is shown. */
  function take(next: View, whole = false): void {
    const known = new Map(whole ? [] : rows.value.map((r) => [r.key, r]));
    for (const row of next.rows) known.set(row.key, row);
    rows.value = next.order.map((key) => known.get(key)).filter((r) => r !== undefined);
    const drawn = new Map(whole ? [] : pieces.value);
    for (const id of next.gone) drawn.delete(id);
    for (const piece of next.pieces) drawn.set(piece.id, piece);
    pieces.value = drawn;
    view.value = next;
  }
  /** Says whether the page's own worker answers. */
  function answers(byWorker: boolean): void {
    inWorker.value = byWorker;
  }
  return {
    rows: shallowReadonly(rows),
    pieces: shallowReadonly(pieces),
    view: shallowReadonly(view),
    inWorker: readonly(inWorker),
    take,
    answers,
  };
}
