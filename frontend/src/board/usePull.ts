/** Pulling an end or a centre of what is chosen: its step says the new place, and all that follows moves. */
import { computed, shallowRef } from "vue";
import type { Point } from "../view";
import { askPlace, catchAlone, placeWords } from "./asked";
import { newest } from "./newest";
import type { Hold, Pointer } from "./pointing";
import { trialOf, type Trial } from "./useTrial";
import type { Pointed } from "./types";
import type { BoardState } from "./useBoard";
import type { ChosenState, Tried } from "./useChosen";

export interface Pulled {
  name: string;
  which: string;
  at: Point;
}

export function usePull(board: BoardState, chosen: ChosenState, hold: () => Hold, tried: Tried) {
  const pulling = shallowRef<Pulled | null>(null);
  /** From where it was taken hold of to the place that is pulled. */
  let off: Point = [0, 0];
  const meant = (p: Pointer): Pointer => ({ ...p, at: [p.at[0] + off[0], p.at[1] + off[1]] });
  const pointed = shallowRef<Pointed | null>(null);
  /** What the drawing would be if it were let go here. */
  const trial = shallowRef<Trial | null>(null);
  /** What can be pulled: of the pieces that are chosen, where their steps say it by a point. */
  const places = computed<Pulled[]>(() =>
    chosen.told.value.flatMap((one) => one.pulled.map((p) => ({ name: one.id, which: p.which, at: p.at }))),
  );
  const asked = newest(async (p: Pointer) => {
    const found = await askPlace(board, hold(), meant(p)).catch(() => null);
    const one = pulling.value;
    if (!one) return;
    pointed.value = found && catchAlone(found);
    const says = found?.choices.length ? placeWords(found) : "";
    const tried = says
      ? await board.ask("try", { call: "pull", name: one.name, which: one.which, says }).catch(() => null)
      : null;
    if (pulling.value) trial.value = tried && trialOf(board, tried);
  });
  async function end(p: Pointer | null): Promise<void> {
    const one = pulling.value;
    pulling.value = pointed.value = trial.value = null;
    if (!one || !p) return;
    await tried(async () => {
      const says = placeWords(await askPlace(board, hold(), meant(p)));
      await board.act("pull", { name: one.name, which: one.which, says });
    });
  }
  /** Takes hold of what is lettered, anywhere on it: it is put elsewhere by as much as it is dragged. */
  async function grab(name: string, p: Pointer): Promise<void> {
    const found = await board.ask("tell", { names: [name] }).catch(() => null);
    const grip = found?.chosen[0]?.pulled.find((g) => g.which === "at");
    if (!grip) return;
    off = [grip.at[0] - p.at[0], grip.at[1] - p.at[1]];
    pulling.value = { name, which: "at", at: grip.at };
  }
  return {
    places,
    pulling,
    pointed,
    trial,
    begin(one: Pulled): void {
      off = [0, 0];
      pulling.value = one;
    },
    grab,
    move: (p: Pointer) => void asked.ask(p),
    end,
  };
}
