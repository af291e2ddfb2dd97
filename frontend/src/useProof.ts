/** The proof of an exercise's sheet, and what of it is pointed at on the drawing: what is free, said twice, or being tied. */
import { useQuery } from "@tanstack/vue-query";
import { computed, ref, watch, type Ref } from "vue";
import { get, type Schemas } from "./api/client";
import { choicesOf, type Shown, type Tying } from "./proof";
import type { Rules } from "./rules";
import { keys } from "./queries";

type Page = Schemas["ExercisePage"];

export function useProof(page: Ref<Page | undefined>, rules: Ref<Rules | null>, chosen: Ref<string | null>) {
  const proof = useQuery({
    queryKey: computed(() => keys.proof(page.value)),
    queryFn: () => get("/api/exercises/{revision_id}/proof", { revision_id: page.value?.revision_id ?? 0 }),
    enabled: computed(() => !!page.value),
    placeholderData: (before) => before,
    retry: false,
  });
  const seen = ref<Shown | null>(null);
  const tying = ref<Tying | null>(null);
  watch([chosen, proof.data], () => (seen.value = null));
  const choices = computed(() =>
    page.value ? choicesOf(page.value.scene, page.value.rules.names ?? {}) : [],
  );

  /** The sizes of a list by the sheet, each with its number. */
  const sizes = computed(() => {
    if (rules.value?.listing !== "sheet" || tying.value) return [];
    const at = new Map(proof.data.value?.sizes.map((s) => [s.id, s.at]));
    return rules.value.requirements.flatMap((r) => {
      const place = r.size && r.on ? at.get(r.size) : undefined;
      return place ? [{ id: r.id, at: place, verdict: "met" as const }] : [];
    });
  });
  const chosenSize = computed(() => {
    const said = new Set(seen.value?.sizes);
    const one = rules.value?.requirements.find((r) =>
      said.size ? said.has(r.size ?? "") : String(r.id) === chosen.value,
    );
    return one?.size ? one.id : null;
  });
  /** The features that are pointed at or tied; null where the list decides what is chosen. */
  const pointed = computed(() => {
    if (tying.value) return new Set(tying.value.to);
    return seen.value?.features.length ? new Set(seen.value.features) : null;
  });
  /** Takes a feature that was pressed for the size that is being tied; says whether one was. */
  function tiesTo(feature: string): boolean {
    const now = tying.value;
    if (!now) return false;
    const to = now.to.includes(feature) ? now.to.filter((f) => f !== feature) : [...now.to, feature];
    tying.value = { id: now.id, to };
    return true;
  }
  return {
    proof: proof.data,
    unproved: proof.error,
    seen,
    tying,
    choices,
    sizes,
    chosenSize,
    pointed,
    tiesTo,
  };
}
