/** The proof of a sheet on the page: what it found, and names for what it is about. */
import type { Schemas } from "./api/client";
import { TAKEN_WORDS } from "./api/words";
import { nameOf, type Names } from "./rules";

export type Proof = Schemas["ProofOut"];
export type Arrow = Schemas["ArrowOut"];
export type Taken = Schemas["TakenOut"];

/** What of a proof is pointed at on the sheet. */
export interface Shown {
  id: string;
  features: readonly string[];
  arrows: readonly Arrow[];
  /** Ids of sizes whose balloons are chosen. */
  sizes: readonly string[];
}

/** A dimension that is being tied, and to what so far. */
export interface Tying {
  id: string;
  to: string[];
}

export interface TakenGroup {
  kind: string;
  word: string;
  lines: Taken[];
}

/** What is taken as read by kind, in the order of the kinds; what is only offered stands apart. */
export function takenGroups(proof: Proof): TakenGroup[] {
  return Object.entries(TAKEN_WORDS)
    .map(([kind, word]) => ({ kind, word, lines: proof.taken.filter((t) => t.kind === kind) }))
    .filter((g) => g.lines.length);
}

/** Every feature that a dimension can be tied to, by name. */
export function choicesOf(scene: Schemas["Scene"], names: Names): { value: string; word: string }[] {
  const ids = [
    ...scene.features.filter((f) => f.kind !== "curve").map((f) => f.id),
    ...scene.joints.map((j) => j.id),
  ];
  return ids.map((id) => ({ value: id, word: nameOf(id, names) }));
}
