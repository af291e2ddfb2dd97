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
  const pointed = shallowRef<Pointed | null>(null);
  /** What the drawing would be if it were let go here. */
  const trial = shallowRef<Trial | null>(null);
  /** What can be pulled: of the pieces that are chosen, where their steps say it by a point. */
  const places = computed<Pulled[]>(() =>
    chosen.told.value.flatMap((one) => one.pulled.map((p) => ({ name: one.id, which: p.which, at: p.at }))),
  );
  const asked = newest(async (p: Pointer) => {
    const found = await askPlace(board, hold(), p).catch(() => null);
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
      const says = placeWords(await askPlace(board, hold(), p));
      await board.act("pull", { name: one.name, which: one.which, says });
    });
  }
  return {
    places,
    pulling,
    pointed,
    trial,
    begin: (one: Pulled) => (pulling.value = one),
    move: (p: Pointer) => void asked.ask(p),
    end,
  };
}
