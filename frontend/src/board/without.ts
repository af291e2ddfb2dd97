/** A queue of acts without its first one, which the server will never take: what was done behind it stays, as far as it was about other lines. */
import { backOf, spliced } from "./edits";
import type { Edit, KeptDocument, KeptLine } from "./types";

/** A line of the list without the act. */
interface Cell {
  line: KeptLine;
}
/** A line of the list with it, and which that is without it; none where only the act had it come. */
interface Entry {
  line: KeptLine;
  cell: Cell | null;
}

const equal = (a: KeptLine, b: KeptLine) => JSON.stringify(a) === JSON.stringify(b);
/** Whether one line is another state of the other. */
const same = (a: KeptLine, b: KeptLine) =>
  a.kind === b.kind && (a.kind === "step" ? a.id === b.id : a.name ? a.name === b.name : equal(a, b));

/** Puts an edit behind others, joined with the last one where they touch. */
function add(edits: Edit[], at: number, gone: KeptLine[], come: KeptLine[]): void {
  const last = edits.at(-1);
  if (last && at === last.at + last.come.length) {
    last.gone.push(...gone);
    last.come.push(...come);
  } else edits.push({ at, gone: [...gone], come: [...come] });
}

/** Returns the later acts as they are where `left` was never done to the list before. */
export function without(
  before: KeptDocument,
  left: readonly Edit[],
  later: readonly (readonly Edit[])[],
): Edit[][] {
  const clean: Cell[] = before.lines.map((line) => ({ line }));
  const full: Entry[] = clean.map((cell) => ({ line: cell.line, cell }));
  /** Cells that only the act took away. */
  const orphans = new Set<Cell>();
  for (const s of left) {
    const come = s.come.map((line): Entry => ({ line, cell: null }));
    for (const gone of full.splice(s.at, s.gone.length, ...come)) if (gone.cell) orphans.add(gone.cell);
  }
  for (const entry of full) if (!entry.cell) entry.cell = claim(orphans, entry.line);

  const out: Edit[][] = [];
  for (const act of later) {
    const edits: Edit[] = [];
    for (const s of act) again(s, edits);
    if (edits.length) out.push(edits);
  }
  return out;

  function again(s: Edit, edits: Edit[]): void {
    const gone = new Set(full.slice(s.at, s.at + s.gone.length).flatMap((e) => e.cell ?? []));
    const come = s.come.map((line): Entry => ({ line, cell: claim(gone, line) ?? claim(orphans, line) }));
    for (const cell of gone) {
      const at = clean.indexOf(cell);
      add(edits, at, [cell.line], []);
      clean.splice(at, 1);
    }
    let at = 0;
    for (let n = s.at - 1; n >= 0; n--) {
      const cell = full[n]?.cell;
      if (!cell) continue;
      at = clean.indexOf(cell) + 1;
      break;
    }
    for (const entry of come) {
      if (entry.cell) {
        const there = clean.indexOf(entry.cell);
        if (!equal(entry.cell.line, entry.line)) add(edits, there, [entry.cell.line], [entry.line]);
        entry.cell.line = entry.line;
        at = there + 1;
      } else {
        entry.cell = { line: entry.line };
        add(edits, at, [], [entry.line]);
        clean.splice(at++, 0, entry.cell);
      }
    }
    full.splice(s.at, s.gone.length, ...come);
  }
}

/** Takes that cell out of a set which a line is another state of. */
function claim(cells: Set<Cell>, line: KeptLine): Cell | null {
  for (const cell of cells)
    if (same(cell.line, line)) {
      cells.delete(cell);
      return cell;
    }
  return null;
}

/** The one act that makes a list out of another; none where they are the same. */
export function between(before: KeptDocument, after: KeptDocument): Edit[][] {
  const a = before.lines.map((l) => JSON.stringify(l));
  const b = after.lines.map((l) => JSON.stringify(l));
  const least = Math.min(a.length, b.length);
  let at = 0;
  while (at < least && a[at] === b[at]) at++;
  let end = 0;
  while (end < least - at && a[a.length - 1 - end] === b[b.length - 1 - end]) end++;
  const gone = before.lines.slice(at, a.length - end);
  const come = after.lines.slice(at, b.length - end);
  return gone.length || come.length ? [[{ at, gone, come }]] : [];
}

/** What an act was about, in its own words. */
export function wordsOf(act: readonly Edit[]): string[] {
  const lines = (which: "come" | "gone") => act.flatMap((s) => s[which]).filter((l) => l.kind !== "blank");
  const come = lines("come");
  return (come.length ? come : lines("gone")).slice(0, 20).map((l) => said(l).slice(0, 400));
}
function said(line: KeptLine): string {
  if (line.kind === "step") return line.says ?? "";
  if (line.kind === "value") return `${line.name ?? ""} = ${line.says ?? ""}`;
  return [line.kind, line.name, line.kind === "drawing" ? "" : line.says].filter(Boolean).join(" ");
}

/** The list before some acts, of the one that they led to. */
export const beforeAll = (after: KeptDocument, acts: readonly (readonly Edit[])[]): KeptDocument =>
  [...acts].reverse().reduce((list, act) => spliced(list, backOf(act)), after);
