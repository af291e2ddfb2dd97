/** What the lens shows of a finding: a window a few times as wide as what is off, and how much that is. */
import { fixed } from "./numbers";
import type { Point } from "./view";

/** Kinds whose balloon stands where the difference is; a length is off at an end, not where its balloon stands. */
const SEEN_THERE = new Set(["joined", "closed", "tangent", "position", "radius"]);

export interface Lens {
  at: Point;
  /** How many units the lens shows across. */
  across: number;
  says: string;
}

export function lensFor(
  finding: { kind: string; verdict: string; deviation?: number | null },
  at: Point | null,
  extent: number,
  unit: string,
): Lens | null {
  const off = Math.abs(finding.deviation ?? 0);
  if (!at || finding.verdict === "met" || !SEEN_THERE.has(finding.kind) || off === 0 || off > extent / 12)
    return null;
  const digits = off < 0.001 ? 6 : 3;
  const word =
    finding.kind === "joined" || finding.kind === "closed"
      ? "apart"
      : finding.kind === "tangent"
        ? "off tangency"
        : "off";
  return { at, across: Math.max(off * 6, extent * 1e-7), says: `${fixed(off, digits)} ${unit} ${word}` };
}
