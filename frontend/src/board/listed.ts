/** Which rows of the list are shown: parts under their headings, folded or not, and what is looked for. */
import type { Row } from "./types";

export interface ListedRow {
  row: Row;
  /** How many steps stand under a heading. */
  steps: number;
  /** How many of them are broken. */
  broken: number;
}

/** Whether a row says a word, has a number, or draws on a layer that is looked for. */
export function matches(row: Row, find: string): boolean {
  const words = find.trim().toLowerCase().split(/\s+/).filter(Boolean);
  const says = `${row.says} ${row.layer ?? ""} ${row.does ?? ""}`.toLowerCase();
  return words.every((w) => says.includes(w) || (/^\d+$/.test(w) && String(row.number ?? "") === w));
}

/** Returns the rows that are shown. Headings (bookmarks) say what stands under them; where something is looked for nothing is folded. */
export function listed(rows: readonly Row[], folded: ReadonlySet<string>, find: string): ListedRow[] {
  const out: ListedRow[] = [];
  let heading: ListedRow | null = null;
  for (const row of rows) {
    if (row.kind === "bookmark") {
      heading = { row, steps: 0, broken: 0 };
      if (!find.trim() || matches(row, find)) out.push(heading);
      continue;
    }
    if (heading && row.kind === "step") {
      heading.steps++;
      heading.broken += row.broken ? 1 : 0;
    }
    if (find.trim() ? matches(row, find) : !heading || !folded.has(heading.row.key))
      out.push({ row, steps: 0, broken: 0 });
  }
  return out;
}

/** The heading under which a row stands. */
export function headingOf(rows: readonly Row[], key: string): string | null {
  let heading: string | null = null;
  for (const row of rows) {
    if (row.key === key) return heading;
    if (row.kind === "bookmark") heading = row.key;
  }
  return null;
}

/** The next broken step behind one, from the start again behind the last. */
export function nextBroken(rows: readonly Row[], after: number | null): Row | undefined {
  const broken = rows.filter((r) => r.kind === "step" && r.broken);
  return broken.find((r) => (r.number ?? 0) > (after ?? 0)) ?? broken[0];
}

/** What is named in a row: a kind of feature, or a whole step, by its id. */
export interface NamedPart {
  kind: string;
  step: number;
  part: number | null;
}
/** The kind of piece that a word in a sentence names. */
export const kindCalled = (word: string): string => (word === "dimension" ? "size" : word);

/** The pieces that a name means: a trimmed circle is named as an arc. */
export function piecesNamed(ids: Iterable<string>, name: NamedPart): string[] {
  const round = ["arc", "circle"];
  const of = [...ids].filter((id) => {
    const [, kind, step] = /^(\S+) (\d+)\./.exec(id) ?? [];
    if (Number(step) !== name.step) return false;
    return (
      name.kind === "step" ||
      kind === kindCalled(name.kind) ||
      (round.includes(kind ?? "") && round.includes(name.kind))
    );
  });
  if (name.kind === "step" || name.part === null) return of;
  return of.filter((id) => id.endsWith(`.${name.part}`));
}
