/** Findings in the order in which one looks at them: each charged one, then those that follow it. */

interface Linked {
  id: number;
  follows?: number | null;
}

/** Returns findings with followers right after what they follow; a follower whose head is not among them stands where it stood. */
export function inChains<T extends Linked>(findings: readonly T[]): T[] {
  const there = new Set(findings.map((f) => f.id));
  const tails = new Map<number, T[]>();
  for (const f of findings) {
    if (f.follows && there.has(f.follows)) tails.set(f.follows, [...(tails.get(f.follows) ?? []), f]);
  }
  const out: T[] = [];
  const seen = new Set<number>();
  const put = (f: T): void => {
    if (seen.has(f.id)) return;
    seen.add(f.id);
    out.push(f);
    tails.get(f.id)?.forEach(put);
  };
  findings.filter((f) => !f.follows || !there.has(f.follows)).forEach(put);
  findings.forEach(put);
  return out;
}

/** Returns the pairs to be linked on the drawing: the whole chain that a finding belongs to. */
export function chainOf(findings: readonly Linked[], id: number | null): [number, number][] {
  const one = findings.find((f) => f.id === id);
  if (!one) return [];
  const head = one.follows ?? one.id;
  return findings.filter((f) => f.follows === head).map((f) => [head, f.id]);
}
