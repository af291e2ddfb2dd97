/** What the list says beside its sentences. */
import type { LayerRow, Row } from "./types";

/** The layer on which each step draws, with how its lines are; nothing of one that draws nothing. */
export function layersOf(
  rows: readonly Row[],
  layers: readonly LayerRow[],
): Map<string, { name: string; lineType: string }> {
  const lines = new Map(layers.map((l) => [l.name, l.line_type]));
  const out = new Map<string, { name: string; lineType: string }>();
  for (const row of rows)
    if (row.kind === "step" && row.layer && !row.broken)
      out.set(row.key, { name: row.layer, lineType: lines.get(row.layer) ?? "continuous" });
  return out;
}
