/** What the list says beside its sentences. */
import type { Row } from "./types";

/** The layer of each step that draws on another one than the step before it; nothing on the usual one at the start. */
export function layersOf(rows: readonly Row[]): Map<string, string> {
  const out = new Map<string, string>();
  let now = "outline";
  for (const row of rows) {
    if (row.kind !== "step" || !row.layer || row.broken) continue;
    if (row.layer !== now) out.set(row.key, row.layer);
    now = row.layer;
  }
  return out;
}
