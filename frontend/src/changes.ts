/** What differs between two states of an exercise, value by value, so that two people's changes can be laid over each other. */
import { kept, type Rules } from "./rules";

/** The part of an exercise that its page changes. */
export interface Content {
  title: string;
  text: string;
  rules: Rules;
}
export interface Change {
  /** Where the value stands: `["title"]`, `["rules", "tolerances", "length"]`, `["rules", "requirements", "12", "on"]`. */
  path: readonly string[];
  before: unknown;
  after: unknown;
}
type Plain = Record<string, unknown>;

const same = (a: unknown, b: unknown) => JSON.stringify(a) === JSON.stringify(b);
const isPlain = (v: unknown): v is Plain => typeof v === "object" && v !== null && !Array.isArray(v);

/** An exercise as nested values, its requirements by their number; what the server derives is left out. */
function plainOf(c: Content): Plain {
  const rules = kept(c.rules);
  return { title: c.title, text: c.text, rules: { ...rules, requirements: byId(rules.requirements ?? []) } };
}
function byId(list: readonly { id?: number | null }[]): Plain {
  return Object.fromEntries(list.map((r, n) => [String(r.id ?? `new ${n}`), r]));
}

export function changesBetween(before: Content, after: Content): Change[] {
  const out: Change[] = [];
  const walk = (a: unknown, b: unknown, path: string[]): void => {
    if (isPlain(a) && isPlain(b)) {
      for (const name of new Set([...Object.keys(a), ...Object.keys(b)]))
        walk(a[name], b[name], [...path, name]);
    } else if (!same(a, b)) out.push({ path, before: a, after: b });
  };
  walk(plainOf(before), plainOf(after), []);
  return out;
}

/** Lays changes over a content; a requirement that is not there any more takes its changes with it. */
export function withChanges(content: Content, changes: readonly Change[]): Content {
  const out = JSON.parse(JSON.stringify(content)) as Content;
  for (const { path, after } of changes) {
    const [first, second, third, ...rest] = path;
    if (path.length === 1 && first === "rules") {
      out.rules = JSON.parse(JSON.stringify(after)) as Rules;
      continue;
    }
    if (first !== "rules") {
      Object.assign(out, { [first ?? ""]: after });
      continue;
    }
    const rules = out.rules as Plain;
    if (second === "requirements") {
      const one = out.rules.requirements.find((r) => String(r.id) === third) as Plain | undefined;
      if (one && rest.length) set(one, rest, after);
    } else set(rules, [second ?? "", ...(third === undefined ? [] : [third, ...rest])], after);
  }
  return out;
}
function set(into: Plain, path: readonly string[], value: unknown): void {
  const [name, ...rest] = path;
  if (name === undefined) return;
  if (!rest.length) {
    if (value === undefined) into[name] = undefined;
    else into[name] = value;
    return;
  }
  const inner = isPlain(into[name]) ? { ...into[name] } : {};
  into[name] = inner;
  set(inner, rest, value);
}

/** The changes of ours that others made too, and otherwise. */
export function contested(ours: readonly Change[], theirs: readonly Change[]): Change[] {
  const at = new Map(theirs.map((c) => [c.path.join("\n"), c]));
  return ours.filter((c) => {
    const other = at.get(c.path.join("\n"));
    return other !== undefined && !same(other.after, c.after);
  });
}

/** What a change would set where it stands in a content, in words: "12", "off", "Draw it." */
export function valueAt(content: Content, path: readonly string[]): string {
  let value: unknown = plainOf(content);
  for (const name of path) value = isPlain(value) ? value[name] : undefined;
  return said(value);
}
export function said(value: unknown): string {
  if (value === true) return "on";
  if (value === false) return "off";
  if (value === undefined || value === null || value === "") return "nothing";
  return typeof value === "object" ? "something else" : String(value);
}

const WORDS: Record<string, string> = {
  title: "the title",
  text: "the instructions for students",
  placement: "the placement",
  tolerances: "tolerances",
  near_share: "marks for near",
  marks: "the total marks",
  any_unit: "whether any unit is accepted",
  exact_layers: "whether letter case counts",
  examines: "what is examined",
  roles: "roles of layers",
  kind_marks: "marks for kinds",
  clutter_each: "what extra objects cost",
  clutter_cap: "what extra objects cost",
  charges: "what slips cost",
  listing: "how the list is built",
  ties: "what dimensions measure",
  taken: "what is implied",
  decided: "which holds: sheet or drawing",
  numbered: "numbers on the sheet",
};

/** Says in a few words what some changes are about. */
export function about(changes: readonly Change[], rules: Rules): string {
  const words = new Set<string>();
  const checks = new Set<string>();
  for (const { path } of changes) {
    if (path[1] === "requirements") {
      const one = rules.requirements.find((r) => String(r.id) === path[2]);
      checks.add(one?.name ?? "a check");
    } else words.add(WORDS[path[0] === "rules" ? (path[1] ?? "") : (path[0] ?? "")] ?? "settings");
  }
  const named = [...checks];
  if (named.length > 3) words.add(`${named.length} checks`);
  else named.forEach((n) => words.add(n));
  return [...words].join(", ");
}
