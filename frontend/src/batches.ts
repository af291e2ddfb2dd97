/** Files of a hand-in for a class, in the groups in which one deals with them. */
import type { Schemas } from "./api/client";

export type BatchFile = Schemas["BatchFileOut"];
export type Group = "asked" | "reading" | "ready" | "unusable" | "left-out" | "handed-in";
export const GROUPS: { id: Group; word: string }[] = [
  { id: "asked", word: "Whose are these?" },
  { id: "reading", word: "Being read" },
  { id: "ready", word: "Ready to hand in" },
  { id: "unusable", word: "Cannot be read" },
  { id: "left-out", word: "Left out" },
  { id: "handed-in", word: "Handed in" },
];

export function groupOf(f: BatchFile): Group {
  return f.attempt_id !== null ? "handed-in" : (f.state as Group);
}

export function grouped(files: readonly BatchFile[]): { id: Group; word: string; files: BatchFile[] }[] {
  return GROUPS.map((g) => ({ ...g, files: files.filter((f) => groupOf(f) === g.id) })).filter(
    (g) => g.files.length,
  );
}

/** How far the workers are, as done and all; null when there is nothing under way. */
export function progressOf(files: readonly BatchFile[]): { done: number; of: number; word: string } | null {
  const reading = files.filter((f) => f.state === "reading").length;
  if (reading) return { done: files.length - reading, of: files.length, word: "read" };
  const handed = files.filter((f) => f.attempt_id !== null);
  const waiting = handed.filter((f) => f.state === "waiting").length;
  return waiting ? { done: handed.length - waiting, of: handed.length, word: "marked" } : null;
}
