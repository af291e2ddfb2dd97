/** How what a sentence wants next may be said: who draws for the first time reads it beside the sentence. */
import type { Writing } from "./types";

const EXAMPLES: Record<string, string> = {
  point: "Click it on the drawing, or type it as 35, 20.",
  feature: "Click it on the drawing, or type it as edge 1.",
  things: "Click it on the drawing, or type it as circle 2.",
  shift: "Click from where to where, or type it as by 10, 0.",
  number: "Type it as 12.5 or 7/16.",
  direction: "Click where to, or type degrees from the right, as 60.",
  wording: 'Type it as "GATE PLATE".',
};

export function wantedSays(writing: Writing | null): string {
  const wants = writing?.follows.length ? writing.follows : (writing?.wants ?? []);
  if (writing?.needs.startsWith("how many")) return "Type it as 4, or choose it.";
  const [kind, says] = Object.entries(EXAMPLES).find(([one]) => wants.some((w) => w.kind === one)) ?? [];
  const feature = wants.find((w) => w.kind === kind)?.kinds.find((k) => k !== "guide");
  return kind === "feature" && feature
    ? `Click it on the drawing, or type it as ${feature} 1.`
    : (says ?? "");
}
