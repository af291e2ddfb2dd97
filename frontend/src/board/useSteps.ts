/** What is done to steps of the list: corrected, moved, taken away, bookmarked. */
import { computed, shallowRef } from "vue";
import type { StepAct } from "./stepActs";
import type { Row } from "./types";
import type { BoardState } from "./useBoard";
import type { Tried } from "./useChosen";
import { decimalComma } from "../who";
import { apart } from "./pointing";
import type { SentenceState } from "./useSentence";

export function useSteps(board: BoardState, sentence: SentenceState, tried: Tried) {
  const steps = computed(() => board.rows.value.filter((r) => r.kind === "step"));
  /** The number that the sentence being written has in the list. */
  const number = computed(() => {
    const place = sentence.place.value;
    const found = place && steps.value.find((r) => r.id === place.step);
    return found?.number ?? steps.value.length + sentence.waits.value.length + 1;
  });
  /** The steps that stand behind it. */
  const later = computed(() => {
    const place = sentence.place.value;
    if (!place) return new Set<number>();
    const from = steps.value.findIndex((r) => r.id === place.step);
    return new Set(steps.value.slice(from).map((r) => r.id ?? 0));
  });
  /** Puts a step into the line to be corrected; `at` is the number in it that is meant alone. */
  function edit(row: Row, at?: [number, number]): void {
    if (!row.id) return;
    const line = decimalComma() ? apart(row.says, at) : { says: row.says, at };
    sentence.edit(row.id, line.says, line.at);
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
  /** What is done with the step that is chosen. */
  function act(what: StepAct, row: Row): void {
    if (what === "up" || what === "down") void move(row, what === "up" ? -1 : 1);
    else if (what === "edit") edit(row);
    else if (what === "insert") {
      if (row.id) sentence.insertBefore(row.id);
    } else if (what === "mark") void mark(row);
    else void away(row);
  }
  return {
    act,
    steps,
    number,
    later,
    edit,
    editStep,
    going,
    away,
    takeAway,
    goingBack,
    goBack,
    goneBack,
    move,
    rename,
    unmark,
  };
}
