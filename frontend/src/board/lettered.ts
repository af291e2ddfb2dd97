/** What is lettered on the drawing, for hands: whether a place lies on a text. */
import type { Point } from "../view";
import type { Piece, SceneText } from "./types";

/** A letter is about so wide, of its height; a place may lie so far outside. */
const WIDE = 0.72;
const ROOM = 0.3;

/** Whether a place of the scene lies on a text. */
export function liesOn(text: SceneText, p: Point): boolean {
  const turn = (text.turn * Math.PI) / 180;
  const [dx, dy] = [p[0] - text.at[0], text.at[1] - p[1]];
  const along = dx * Math.cos(turn) + dy * Math.sin(turn);
  const up = dy * Math.cos(turn) - dx * Math.sin(turn);
  const rows = text.wording.split("\n");
  const long = Math.max(...rows.map((r) => r.length)) * text.height * WIDE;
  const [across = "left", level = "baseline"] = text.anchor.split(" ");
  const left = across === "centre" ? -long / 2 : across === "right" ? -long : 0;
  const bottom = level === "top" ? -text.height : level === "middle" ? -text.height / 2 : 0;
  const low = bottom - (rows.length - 1) * text.height * 1.25;
  const room = text.height * ROOM;
  return (
    along >= left - room &&
    along <= left + long + room &&
    up >= low - room &&
    up <= bottom + text.height + room
  );
}

/** The piece whose lettering lies under a place, the one drawn last first. */
export function letteredAt(pieces: Iterable<Piece>, p: Point): Piece | undefined {
  let found: Piece | undefined;
  for (const piece of pieces) if (piece.texts.some((t) => liesOn(t, p))) found = piece;
  return found;
}
