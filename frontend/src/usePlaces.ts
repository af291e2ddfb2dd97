/** Findings on a drawing: which balloons stand there, what is drawn as wrong, what the lens shows, and how one of them is chosen. */
import { computed, ref, type Ref } from "vue";
import type { Verdict } from "./api/client";
import { chainOf } from "./chains";
import { lensFor } from "./lens";
import { MARKS_ITS_FEATURE } from "./rules";
import type { SketchMark } from "./sketch";
import type { Point } from "./view";

export interface PlacedFinding {
  id: number;
  kind: string;
  verdict: Verdict;
  /** In the scene: where it stands, and where it is seen on what was drawn. */
  at?: readonly number[] | null;
  seen_at?: readonly number[] | null;
  features?: readonly string[];
  /** The drawn features that it is about. */
  partners: readonly string[];
  follows?: number | null;
  deviation?: number | null;
  sketch: readonly SketchMark[];
  items?: readonly { feature: string | null; charged: boolean }[];
}
interface Comment {
  number: number;
  text: string;
  at?: readonly number[] | null;
}
interface Sheet {
  fit: () => void;
  lookAt: (at: Point, size: number) => void;
}

/** Whether nothing was drawn for what a finding is about, by itself or with its group. */
function isMissing(f: PlacedFinding): boolean {
  const withOthers = f.verdict === "follows" && f.partners.length === 0 && f.features?.length === 1;
  return f.verdict === "absent" || withOthers;
}

export function usePlaces<F extends PlacedFinding>(given: {
  findings: Readonly<Ref<readonly F[]>>;
  comments: Readonly<Ref<readonly Comment[]>>;
  /** How large what is drawn is over all, and in which unit. */
  extent: Readonly<Ref<number>>;
  unit: Readonly<Ref<string>>;
  sheet: Readonly<Ref<Sheet | null>>;
  chosen: Ref<number | null>;
  cause: Ref<number | null>;
  /** The findings of the chosen slip. */
  explained: Readonly<Ref<ReadonlySet<number> | null>>;
}) {
  const { findings, chosen, cause, sheet, extent } = given;
  /** The finding whose row is pointed at. */
  const pointed = ref<number | null>(null);
  /** Whether every finding has its balloon, not only the open ones. */
  const every = ref(false);
  const pin = ref<number | null>(null);
  const by = (id: number | null) => (id === null ? null : (findings.value.find((f) => f.id === id) ?? null));
  const current = computed(() => by(chosen.value));
  const looked = computed(() => [current.value, by(pointed.value)].filter((f) => f !== null) as F[]);
  const placeOf = (f: PlacedFinding | null) => (f?.seen_at ?? f?.at ?? null) as Point | null;

  const balloons = computed(() => {
    const wanted = findings.value.filter((f) => (every.value || f.verdict !== "met") && f.kind !== "whole");
    return [...new Set([...wanted, ...looked.value])].flatMap((f) => {
      const at = placeOf(f);
      return at ? [{ id: f.id, at, verdict: f.verdict }] : [];
    });
  });
  const wrongKey = computed(() => new Set(findings.value.filter(isMissing).flatMap((f) => f.features ?? [])));
  const wrongDrawn = computed(() => {
    const out = new Set<string>();
    for (const f of findings.value) {
      if (f.verdict !== "missed" && f.verdict !== "near") continue;
      if (MARKS_ITS_FEATURE.has(f.kind)) f.partners.forEach((p) => out.add(p));
      f.items?.forEach((i) => i.feature && i.charged && out.add(i.feature));
    }
    return out;
  });
  const chosenKey = computed(() => new Set(looked.value.flatMap((f) => f.features ?? [])));
  const chosenDrawn = computed(() => new Set(looked.value.flatMap((f) => f.partners)));
  const lens = computed(() => {
    const f = current.value;
    return f ? lensFor(f, placeOf(f), extent.value, given.unit.value) : null;
  });
  const links = computed(() => chainOf(findings.value, chosen.value));
  /** The chosen finding in full; of the others of its slip or chain the arrows back alone. */
  const sketch = computed(() => {
    const one = current.value;
    const shared = new Set(links.value.flat());
    const others = findings.value.filter(
      (f) => f !== one && (given.explained.value?.has(f.id) || shared.has(f.id)),
    );
    return [...(one?.sketch ?? []), ...others.flatMap((f) => f.sketch.filter((m) => m.as === "back"))];
  });
  const pins = computed(() =>
    given.comments.value.flatMap((c) =>
      c.at ? [{ number: c.number, at: c.at as Point, text: c.text }] : [],
    ),
  );

  function choose(finding: number | null, zoom = true): void {
    chosen.value = finding;
    if (!zoom) return;
    const at = placeOf(current.value);
    if (at) sheet.value?.lookAt(at, extent.value / 7);
    else sheet.value?.fit();
  }
  /** Chooses a slip, and brings all its places into view together; once more lets it go. */
  function chooseCause(c: { id: number; explains: readonly number[] }): void {
    if (cause.value === c.id) return letGo();
    cause.value = c.id;
    choose(c.explains[0] ?? null, false);
    lookAtAll(c.explains);
  }
  function lookAtAll(ids: readonly number[]): void {
    const places = ids.map((id) => placeOf(by(id))).filter((p) => p !== null);
    if (!places.length) return sheet.value?.fit();
    const [left, right] = [Math.min(...places.map((p) => p[0])), Math.max(...places.map((p) => p[0]))];
    const [top, bottom] = [Math.min(...places.map((p) => p[1])), Math.max(...places.map((p) => p[1]))];
    const spread = Math.max(right - left, bottom - top) / 2;
    sheet.value?.lookAt([(left + right) / 2, (top + bottom) / 2], Math.max(spread, extent.value / 7));
  }
  function choosePin(number: number): void {
    pin.value = number;
    const at = pins.value.find((p) => p.number === number)?.at;
    if (at) sheet.value?.lookAt(at, extent.value / 5);
  }
  function letGo(): void {
    cause.value = pin.value = pointed.value = null;
    choose(null);
  }
  return {
    current,
    pointed,
    every,
    pin,
    pins,
    balloons,
    wrongKey,
    wrongDrawn,
    chosenKey,
    chosenDrawn,
    lens,
    links,
    sketch,
    choose,
    chooseCause,
    choosePin,
    letGo,
  };
}
