/** What is done to steps of the list: corrected, moved, taken away, bookmarked. */
import { computed, shallowRef } from "vue";
import type { Row } from "./types";
import type { BoardState } from "./useBoard";
import type { Tried } from "./useChosen";
import type { SentenceState } from "./useSentence";

export function useSteps(board: BoardState, sentence: SentenceState, tried: Tried) {
  const steps = computed(() => board.rows.value.filter((r) => r.kind === "step"));
  function edit(row: Row): void {
    if (row.id) sentence.edit(row.id, row.says);
  }
  function editStep(step: number): void {
    const row = steps.value.find((r) => r.id === step);
    if (row) edit(row);
  }
  const going = shallowRef<{ row: Row; by: number[] } | null>(null);
  async function away(row: Row): Promise<void> {
    const { id } = row;
    if (!id) return;
    const needed = await tried(() => board.ask("needed", { steps: [id] }));
    if (!needed) return;
    if (needed.by.length) going.value = { row, by: needed.by };
    else await takeAway(row);
  }
  async function takeAway(row: Row): Promise<void> {
    going.value = null;
    const { id } = row;
    if (id) await tried(() => board.act("take_away", { steps: [id] }));
  }
  async function move(row: Row, by: -1 | 1): Promise<void> {
    const { id } = row;
    if (!id) return;
    const n = steps.value.findIndex((r) => r.id === id);
    const before = by < 0 ? steps.value[n - 1]?.id : (steps.value[n + 2]?.id ?? null);
    if (before === undefined) return;
    await tried(() => board.act("move", { step: id, before }));
  }
  /** A bookmark is a moment to go back to: what stands behind it goes, together. */
  const goingBack = shallowRef<{ row: Row; steps: number[] } | null>(null);
  function goBack(row: Row): void {
    const behind = steps.value.filter((r) => r.line > row.line).flatMap((r) => r.id ?? []);
    if (behind.length) goingBack.value = { row, steps: behind };
  }
  async function goneBack(): Promise<void> {
    const found = goingBack.value?.steps;
    goingBack.value = null;
    if (found) await tried(() => board.act("take_away", { steps: found }));
  }
  const mark = (row: Row) =>
    tried(() => board.act("line", { line: row.line, gone: false, come: { kind: "bookmark", says: "here" } }));
  async function rename(row: Row, says: string): Promise<void> {
    if (says !== row.says)
      await tried(() => board.act("line", { line: row.line, gone: true, come: { kind: row.kind, says } }));
  }
  async function unmark(row: Row): Promise<void> {
    await tried(() => board.act("line", { line: row.line, gone: true, come: null }));
  }
  return {
    steps,
    edit,
    editStep,
    going,
    away,
    takeAway,
    goingBack,
    goBack,
    goneBack,
    move,
    mark,
    rename,
    unmark,
  };
}
