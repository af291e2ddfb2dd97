/** A list of steps and what is done to it, as splices of its lines. */
import type { KeptDocument, Edit } from "./types";

/** What takes splices back. */
export function backOf(splices: readonly Edit[]): Edit[] {
  return splices.map((s) => ({ at: s.at, gone: s.come, come: s.gone })).reverse();
}

/** A list after splices. */
export function spliced(document: KeptDocument, splices: readonly Edit[]): KeptDocument {
  const lines = [...document.lines];
  let next = document.next;
  for (const s of splices) {
    lines.splice(s.at, s.gone.length, ...s.come);
    for (const line of s.come) next = Math.max(next, (line.id ?? 0) + 1);
  }
  return { ...document, next, lines };
}
