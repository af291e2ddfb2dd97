/** Places asked for outside a sentence: what is caught under a pointer, as a sentence would say it. */
import type { Hold, Pointer } from "./pointing";
import type { Pointed } from "./types";
import type { BoardState } from "./useBoard";

/** A sentence that wants a point, so that catches are those of any other. */
const ASKS = "point asked; ";

/** What a pointer means behind a text. */
export function askAt(board: BoardState, says: string, hold: Hold, p: Pointer, which = 0): Promise<Pointed> {
  return board.ask("point", {
    says,
    x: p.at[0],
    y: p.at[1],
    reach: p.reach,
    pixel: p.pixel,
    which,
    ...hold,
  });
}
export const askPlace = (board: BoardState, hold: Hold, p: Pointer, which = 0) =>
  askAt(board, ASKS, hold, p, which);
/** How a sentence would say the place that is meant. */
export const placeWords = (found: Pointed) => found.text.slice(ASKS.length).replace(/;\s*$/, "");
/** As it is shown: the catch alone, without what a sentence would draw. */
export const catchAlone = (found: Pointed): Pointed => ({ ...found, preview: null, points: [], live: "" });
