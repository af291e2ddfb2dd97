/** What is done to what is chosen: put on a layer, erased, deleted with its step. */
import { computed } from "vue";
import { piecesNamed, type NamedPart } from "./listed";
import type { Row } from "./types";
import type { BoardState } from "./useBoard";
import type { ChosenState, Tried } from "./useChosen";

export function useChosenActs(
  board: BoardState,
  choosing: ChosenState,
  tried: Tried,
  away: (row: Row) => Promise<void>,
) {
  const { chosen, chosenSet, chosenSteps, told } = choosing;
  const putOn = (names: string[], layer: string) => tried(() => board.act("put_on", { names, layer }));
  async function erase(names: string[]): Promise<void> {
    const done = await tried(() => board.act("write", { says: `erase ${names.join(" and ")}` }));
    if (done) chosen.value = [];
  }
  /** The step that made what is chosen, where it made nothing else. */
  const whole = computed(() => {
    const [step, ...others] = chosenSteps.value;
    if (step === undefined || others.length) return undefined;
    const all = piecesNamed(board.pieces.value.keys(), { kind: "step", step, part: null });
    return all.every((id) => chosenSet.value.has(id))
      ? board.rows.value.find((r) => r.id === step)
      : undefined;
  });
  /** Deletes what is chosen: with its step, where that made nothing else; else it is erased with a further step. */
  async function remove(): Promise<void> {
    if (whole.value) await away(whole.value);
    else if (told.value.length) await erase(told.value.map((t) => t.name));
  }
  function chooseNamed(name: NamedPart): void {
    chosen.value = piecesNamed(board.pieces.value.keys(), name);
  }
  return { putOn, erase, remove, chooseNamed };
}
