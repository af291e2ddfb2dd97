/** What hands and words mean on the board: pointers, how they are drawn, and by which words kinds of steps begin. */
import type { Point } from "../view";
import type { Kind, Writing } from "./types";

export interface Pointer {
  /** Where it is in the scene, how far it reaches and how wide a pixel is, in units. */
  at: Point;
  reach: number;
  pixel: number;
}
export interface Hold {
  held: string;
  off: boolean;
  level: "gently" | "firmly" | "not";
  grid: number;
  /** Layers that are not shown: nothing on them is caught. */
  hidden?: string[];
}
/** Whether a sentence has begun with the words of a kind. */
export function known(kinds: readonly Kind[], says: string): boolean {
  const begun = says.trimStart().toLowerCase();
  return kinds.some((k) => begun.startsWith(k.begins) || begun === k.begins.trim());
}

/** A step as somebody may write it over for whom a comma between two digits is a decimal one: coordinates stand apart by more; `at` is where a part of it stands, then as before. */
export function apart(says: string, at?: [number, number]): { says: string; at?: [number, number] } {
  const extra: number[] = [];
  const out = says.replace(/"(?:[^"\\]|\\.)*"|(?<=\d),(?=\d)/g, (found, where: number) => {
    if (found !== ",") return found;
    extra.push(where);
    return ", ";
  });
  const moved = (n: number) => n + extra.filter((e) => e < n).length;
  return { says: out, at: at && [moved(at[0]), moved(at[1])] };
}

/** Whether something of what is written was understood. */
export const isRead = (w: Writing): boolean => w.spans.length > 0 || w.readings.length > 0;

/** How the kind of a sentence begins: what is written for the same again. */
export function beginOf(kinds: readonly Kind[], says: string): string {
  const found = [...kinds]
    .sort((a, b) => b.begins.length - a.begins.length)
    .find((k) => says.toLowerCase().startsWith(k.begins.trim()));
  return found?.begins ?? `${says.split(" ")[0]} `;
}
