/** Rule sets on the page: which requirements belong together, and what is sent back. */
import type { Schemas } from "./api/client";
import { plainNumber } from "./numbers";
import { FEATURE_WORDS, KIND_TITLES, LIST_PARTS, MARKS_ITS_FEATURE as OF_ONE } from "./api/words";

export type Rules = Schemas["RulesOut"];
export type Requirement = Schemas["RequirementOut"];
export interface Group {
  id: string;
  name: string;
  requirements: Requirement[];
}

export function byKind(rules: Rules): Group[] {
  return Object.entries(KIND_TITLES)
    .map(([id, name]) => ({ id, name, requirements: rules.requirements.filter((r) => r.kind === id) }))
    .filter((g) => g.requirements.length);
}

const LETTERS: [string, string][] = Object.entries(FEATURE_WORDS);

export type Names = Readonly<Record<string, string>>;

/** What a feature is called: "Lower left hole"; where it has no name, "Corner 3". */
export function nameOf(id: string, names: Names = {}): string {
  const own = names[id];
  if (own) return own.charAt(0).toUpperCase() + own.slice(1);
  const word = LETTERS.find(([l]) => l === id[0])?.[1];
  return word ? `${word} ${id.slice(1)}` : "Whole drawing";
}

/** What a feature is called within a sentence. */
export function calledIn(id: string, names: Names = {}): string {
  return names[id] ?? nameOf(id).toLowerCase();
}

/** A list by the sheet in its parts, each requirement once. */
export function bySheet(rules: Rules): Group[] {
  return Object.entries(LIST_PARTS)
    .map(([id, name]) => ({ id, name, requirements: rules.requirements.filter((r) => r.part === id) }))
    .filter((g) => g.requirements.length);
}

export function byFeature(rules: Rules): Group[] {
  const groups = new Map<string, Group>();
  for (const r of rules.requirements) {
    const id = r.features[0] ?? "whole";
    const name = r.features.length ? nameOf(id, rules.names) : "Whole drawing";
    const group = groups.get(id) ?? { id, name, requirements: [] };
    group.requirements.push(r);
    groups.set(id, group);
  }
  const order = (g: Group) => (g.id === "whole" ? -1 : LETTERS.findIndex(([l]) => l === g.id[0]));
  return [...groups.values()].sort((a, b) => order(a) - order(b));
}

/** The size or place by which a feature is told from its like, with all figures that can matter; nothing for the checks of a kind. */
export function hintOf(group: Group): string {
  if (group.id in KIND_TITLES || group.id in LIST_PARTS) return "";
  const about = (kind: string) => group.requirements.find((r) => r.kind === kind)?.expected;
  const length = about("length");
  const radius = about("radius");
  const place = about("position");
  if (typeof length === "number") return `${short(length)} long`;
  if (typeof radius === "number") return group.id[0] === "c" ? `Ø${short(radius)}` : `R${short(radius)}`;
  return Array.isArray(place) ? `at ${place.map((v) => short(Number(v))).join(", ")}` : "";
}
const short = (value: number) => plainNumber(Math.round(value * 1e4) / 1e4).replace("-", "−");

export function marksOf(requirements: readonly Requirement[]): number {
  return requirements.reduce((sum, r) => sum + (r.on ? r.marks : 0), 0);
}

/** What is kept of a rule set: names, marks and expectations are derived from the key by the server. */
export function kept(rules: Rules): Schemas["RulesIn"] {
  const derived = new Set(["name", "marks", "expected", "of", "part"]);
  const own: Rules = { ...rules };
  delete own.names;
  return {
    ...own,
    requirements: rules.requirements.map(
      (r) =>
        Object.fromEntries(
          Object.entries(r).filter(([name]) => !derived.has(name)),
        ) as Schemas["RequirementIn"],
    ),
  };
}

/** Kinds that are about one feature alone, so that missing them marks it. */
export const MARKS_ITS_FEATURE: ReadonlySet<string> = new Set(OF_ONE);

export const PLACEMENTS = [
  { value: "as-drawn", name: "As drawn", says: "Coordinates count." },
  { value: "slide", name: "Slide", says: "It may be anywhere." },
  { value: "slide-and-turn", name: "Slide and turn", says: "It may be anywhere and turned." },
] as const;

export const DETAILS = [
  { value: "score", name: "Marks only" },
  { value: "checks", name: "Which checks and slips" },
  { value: "numbers", name: "Full numbers" },
] as const;

export const RETURNS = [
  { value: "at-once", word: "As soon as it is marked" },
  { value: "by-hand", word: "When you return it" },
] as const;

/** What a wording may be held against instead of the key's own: something about the student. */
export const WORDING_FIELDS = [
  { value: "name", word: "the student's name" },
  { value: "group", word: "the name of the class" },
  { value: "date", word: "a date, anything written" },
] as const;
