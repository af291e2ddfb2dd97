/** Which findings are listed, in which order, and which one is chosen. */
import { computed, ref, type Ref } from "vue";
import type { Schemas, Verdict } from "./api/client";
import { inChains } from "./chains";

type Finding = Schemas["FindingOut"];
const ORDER = ["missed", "absent", "near", "follows", "met"] as const;

export function useFindings(marks: Ref<Schemas["MarksOut"] | null>) {
  const verdict = ref<"open" | "all" | Verdict>("open");
  const kind = ref("all");
  const chosen = ref<number | null>(null);
  const cause = ref<number | null>(null);
  const findings = computed<Finding[]>(() => marks.value?.findings ?? []);
  const isOpen = (f: Finding) => f.verdict !== "met";

  const kinds = computed(() => [...new Set(findings.value.map((f) => f.kind))]);
  const verdictChoices: { value: "open" | "all" | Verdict; word: string }[] = [
    { value: "open", word: "open first" },
    { value: "all", word: "in order" },
    ...ORDER.map((v) => ({ value: v, word: v })),
  ];
  const kindChoices = computed(() => [
    { value: "all", word: "every kind" },
    ...kinds.value.map((k) => ({ value: k, word: k.replace("-", " ") })),
  ]);
  const explained = computed(() => {
    const one = marks.value?.causes.find((c) => c.id === cause.value);
    return one ? new Set(one.explains) : null;
  });
  const rows = computed(() => {
    const set = explained.value;
    const wanted = findings.value.filter(
      (f) =>
        (verdict.value === "all" || (verdict.value === "open" ? isOpen(f) : f.verdict === verdict.value)) &&
        (kind.value === "all" || f.kind === kind.value) &&
        (!set || set.has(f.id) || set.has(f.follows ?? -1)),
    );
    if (verdict.value !== "open") return wanted;
    const first = inChains(wanted);
    return kind.value === "all" && !set ? [...first, ...findings.value.filter((f) => !isOpen(f))] : first;
  });
  const counts = computed(() => {
    const out: Partial<Record<Verdict, number>> = {};
    for (const f of findings.value) out[f.verdict] = (out[f.verdict] ?? 0) + 1;
    return out;
  });
  const summary = computed(() =>
    ORDER.filter((v) => counts.value[v])
      .map((v) => `${counts.value[v]} ${v}`)
      .join(" · "),
  );

  /** Returns the finding that one step takes to: through what is open if anything is, round at the ends. */
  function next(by: number): number | null {
    const list = rows.value.some(isOpen)
      ? rows.value.filter((f) => isOpen(f) || f.id === chosen.value)
      : rows.value;
    if (!list.length) return null;
    const here = list.findIndex((f) => f.id === chosen.value);
    const at = here < 0 ? (by > 0 ? 0 : list.length - 1) : (here + by + list.length) % list.length;
    return list[at]?.id ?? null;
  }
  return {
    findings,
    verdict,
    kind,
    chosen,
    cause,
    explained,
    verdictChoices,
    kindChoices,
    rows,
    summary,
    next,
  };
}
