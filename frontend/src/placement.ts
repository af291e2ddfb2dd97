/** How a drawing was laid on its key, and what its slips explain, in words. */
import type { Schemas } from "./api/client";
import { fixed } from "./numbers";

type Marks = Schemas["MarksOut"];

export function laidOn(p: Marks["placement"]): string {
  const words: string[] = [];
  if (p.scale !== 1) words.push(`scaled ${fixed(p.scale, 4)} times`);
  if (p.mirror) words.push("mirrored");
  if (p.turn) words.push(`turned ${fixed(p.turn, 2)}°`);
  if (p.shift[0] || p.shift[1]) words.push(`shifted ${p.shift.map((v) => fixed(v, 3)).join(", ")}`);
  return words.length ? `compared: ${words.join(", ")}` : "compared as drawn";
}

export function explainedBy(causes: Marks["causes"]): string {
  const slips = causes.filter((c) => !c.set_aside);
  const n = slips.reduce((sum, c) => sum + c.explains.length, 0);
  return slips.length === 1 && n > 1 ? `One slip explains ${n} findings` : "What went wrong";
}
