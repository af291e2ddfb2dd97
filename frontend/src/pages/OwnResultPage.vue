<script setup lang="ts">
import { useQuery } from "@tanstack/vue-query";
import { computed, ref } from "vue";
import { useRoute } from "vue-router";
import { get, type Schemas } from "../api/client";
import AppBar from "../components/AppBar.vue";
import { chainOf, inChains } from "../chains";
import CauseCard from "../components/CauseCard.vue";
import CommentList from "../components/marking/CommentList.vue";
import DrawingSheet from "../components/DrawingSheet.vue";
import InspectionList from "../components/InspectionList.vue";
import StateNote from "../components/StateNote.vue";
import VerdictCounts from "../components/VerdictCounts.vue";
import { lensFor } from "../lens";
import { marks } from "../numbers";
import { when } from "../times";
import { MARKS_ITS_FEATURE } from "../rules";
import type { Point } from "../view";

const id = Number(useRoute().params.id);
const { data, isPending, error, refetch } = useQuery({
  queryKey: ["result", id],
  queryFn: () => get("/api/work/results/{attempt_id}", { attempt_id: id }),
  refetchInterval: (query) => (query.state.data?.state === "waiting" ? 900 : 20000),
});
const chosen = ref<number | null>(null);
const cause = ref<number | null>(null);
const sheet = ref<InstanceType<typeof DrawingSheet> | null>(null);
const unit = computed(() => data.value?.unit ?? "mm");
const rows = computed(() => {
  const all = data.value?.findings ?? [];
  return [...inChains(all.filter((f) => f.verdict !== "met")), ...all.filter((f) => f.verdict === "met")];
});
const balloons = computed(() =>
  rows.value
    .filter((f) => f.verdict !== "met" && f.at && f.kind !== "whole")
    .map((f) => ({ id: f.id, at: f.at as Point, verdict: f.verdict })),
);
const wrong = computed(
  () =>
    new Set(
      rows.value
        .filter((f) => (f.verdict === "missed" || f.verdict === "near") && MARKS_ITS_FEATURE.has(f.kind))
        .flatMap((f) => f.drawn),
    ),
);
const chosenDrawn = computed(() => new Set(current.value?.drawn ?? []));
const current = computed(() => rows.value.find((f) => f.id === chosen.value) ?? null);
const extent = computed(() => Math.max(data.value?.drawn?.box[2] ?? 100, data.value?.drawn?.box[3] ?? 100));
const lens = computed(() => {
  const f = current.value;
  return f ? lensFor(f, f.at as Point | null, extent.value, unit.value) : null;
});
const links = computed(() => chainOf(rows.value, chosen.value));
const sketch = computed(() => current.value?.sketch ?? []);
const pin = ref<number | null>(null);
const pins = computed(() =>
  (data.value?.comments ?? []).filter((c) => c.at).map((c) => ({ number: c.number, at: c.at as Point, text: c.text })),
);
function choosePin(number: number): void {
  pin.value = number;
  const at = pins.value.find((p) => p.number === number)?.at;
  if (at) sheet.value?.lookAt(at, extent.value / 5);
}
function choose(finding: number | null): void {
  chosen.value = finding;
  const at = current.value?.at as Point | null | undefined;
  if (at) sheet.value?.lookAt(at, extent.value / 7);
  else sheet.value?.fit();
}
function chooseCause(c: Schemas["CauseOut"]): void {
  cause.value = cause.value === c.id ? null : c.id;
  choose(cause.value ? (c.explains[0] ?? null) : null);
}
const full = computed(() => data.value?.earned !== null && data.value?.earned === data.value?.possible);
</script>

<template>
  <AppBar />
  <main class="mx-auto max-w-7xl p-5 sm:p-6">
    <StateNote v-if="isPending || error" :loading="isPending" :error="error" :retry="() => refetch()" />
    <template v-else-if="data">
      <div class="flex flex-wrap items-end justify-between gap-4">
        <div>
          <h1>{{ data.issue.title }}</h1>
          <p class="text-ink2">
            Try {{ data.number }} · {{ data.file_name }} · handed in {{ when(data.handed_in_at)
            }}<b v-if="data.late" class="text-near"> · late</b>
          </p>
        </div>
        <div class="flex flex-wrap items-end gap-x-4 gap-y-1">
          <p v-if="data.earned !== null" class="whitespace-nowrap">
            <b class="text-3xl">{{ marks(data.earned ?? 0) }}</b>
            <span class="ml-1.5 text-ink2">of {{ marks(data.possible ?? 0).replace(/\.00$/, "") }}</span>
          </p>
          <p v-if="data.state === 'marked'" class="screen-only flex gap-3 pb-1.5 text-sm">
            <a :href="`/api/work/results/${data.attempt_id}/marked.pdf`">Save as PDF</a>
            <a :href="`/api/work/results/${data.attempt_id}/marked.dxf`">Save as DXF</a>
          </p>
          <RouterLink :to="`/work/${data.issue.id}`" class="press no-underline">
            {{ data.tries_left > 0 && !full ? `Try again · ${data.tries_left} left` : "Back to the exercise" }}
          </RouterLink>
        </div>
      </div>
      <p v-if="data.state === 'waiting'" class="paper mt-5 p-5" aria-live="polite">
        Your drawing is handed in and is being marked. The result appears here by itself, usually within a few seconds.
      </p>
      <p v-else-if="data.state === 'failed'" role="alert" class="paper mt-5 p-5">
        Your drawing is kept but could not be marked. {{ data.trouble }} Your instructor can see this too.
      </p>
      <p v-else-if="data.state === 'kept'" class="paper mt-5 p-5" aria-live="polite">
        Your drawing is with your instructor, who looks at it before you get it back. It appears here when it is
        returned.
      </p>
      <div v-else class="mt-4 grid gap-5 lg:grid-cols-[minmax(0,1fr)_29rem]">
        <section class="h-[58vh] min-h-80 lg:h-[calc(100dvh-12rem)]">
          <DrawingSheet
            ref="sheet"
            label="Your drawing"
            :drawn="data.drawn"
            show="drawing"
            :balloons="balloons"
            :wrong-drawn="wrong"
            :chosen-drawn="chosenDrawn"
            :chosen-balloon="chosen"
            :lens="lens"
            :sketch="sketch"
            :links="links"
            :pins="pins"
            :chosen-pin="pin"
            @balloon="choose"
            @pin="(n) => (pin = n)"
          />
        </section>
        <section class="min-w-0 space-y-3 lg:max-h-[calc(100dvh-12rem)] lg:overflow-y-auto">
          <p v-if="full" class="paper p-4 text-lg font-semibold">Everything asked for is met.</p>
          <p v-else-if="data.detail === 'score'" class="paper p-4 text-ink2">
            This exercise shows the score only. Compare your drawing with the sheet, size by size, then try again.
          </p>
          <template v-else>
            <VerdictCounts v-if="data.verdicts" :verdicts="data.verdicts" />
            <h2 v-if="data.causes.length" class="text-ink2">What happened, and how to avoid it</h2>
            <CauseCard
              v-for="c in data.causes"
              :key="c.id"
              :cause="c"
              teaching
              :chosen="cause === c.id || current?.causes.includes(c.id) === true"
              @choose="chooseCause(c)"
            />
          </template>
          <section v-if="data.comments.length" class="paper p-4">
            <h2 class="mb-2 text-ink2">Comments</h2>
            <CommentList :comments="data.comments" :chosen="pin" @choose="choosePin" />
          </section>
          <p v-for="n in data.notes" :key="n.says" class="text-sm text-ink2">{{ n.says }}</p>
          <template v-if="data.findings.length">
            <h2 class="text-ink2">Inspection list</h2>
            <div class="paper overflow-x-auto">
              <InspectionList
                :rows="rows"
                :chosen="chosen"
                :unit="unit"
                :numbers="data.detail === 'numbers'"
                @choose="choose"
              />
            </div>
          </template>
        </section>
      </div>
    </template>
  </main>
</template>
