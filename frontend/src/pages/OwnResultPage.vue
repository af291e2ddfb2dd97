<script setup lang="ts">
import { useQuery } from "@tanstack/vue-query";
import { computed, proxyRefs, ref } from "vue";
import { useRoute } from "vue-router";
import { get } from "../api/client";
import AppBar from "../components/AppBar.vue";
import { inChains } from "../chains";
import CauseCard from "../components/CauseCard.vue";
import CommentList from "../components/marking/CommentList.vue";
import DrawingSheet from "../components/DrawingSheet.vue";
import InspectionList from "../components/InspectionList.vue";
import StateNote from "../components/StateNote.vue";
import VerdictCounts from "../components/VerdictCounts.vue";
import { marks } from "../numbers";
import { when } from "../times";
import { useTitle } from "../title";
import { usePlaces } from "../usePlaces";
import { keys } from "../queries";

const MOST_YOURS = 4;
const id = Number(useRoute().params.id);
const { data, isPending, error, refetch } = useQuery({
  queryKey: keys.result(id),
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
const findings = computed(() => data.value?.findings ?? []);
const extent = computed(() => Math.max(data.value?.drawn?.box[2] ?? 100, data.value?.drawn?.box[3] ?? 100));
const explained = computed(() => {
  const one = data.value?.causes.find((c) => c.id === cause.value);
  return one ? new Set(one.explains) : null;
});
const places = proxyRefs(
  usePlaces({
    findings,
    comments: computed(() => data.value?.comments ?? []),
    extent,
    unit,
    sheet,
    chosen,
    cause,
    explained,
  }),
);
/** The steps that drew what a slip explains; none where they are many. */
function yoursOf(explains: readonly number[]) {
  const about = findings.value.filter((f) => explains.includes(f.id) && f.verdict !== "met");
  const all = new Map(about.flatMap((f) => f.yours).map((y) => [y.says, y]));
  return all.size <= MOST_YOURS ? [...all.values()].sort((a, b) => a.step - b.step) : [];
}
useTitle(() => data.value && `${data.value.issue.title}, try ${data.value.number}`);
const full = computed(() => data.value?.earned !== null && data.value?.earned === data.value?.possible);
</script>

<template>
  <AppBar />
  <main class="mx-auto max-w-7xl p-5 sm:p-6">
    <StateNote v-if="isPending || error" :loading="isPending" :error="error" :retry="() => refetch()" />
    <template v-else-if="data">
      <div class="flex flex-wrap items-end justify-between gap-4">
        <div class="min-w-0">
          <h1 class="break-words">{{ data.issue.title }}</h1>
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
            <a :href="`/api/work/results/${data.attempt_id}/marked.pdf`">Download PDF</a>
            <a :href="`/api/work/results/${data.attempt_id}/marked.dxf`">Download DXF</a>
          </p>
          <RouterLink :to="`/work/${data.issue.id}`" class="press no-underline">
            {{
              data.tries_left > 0 && !full && !data.shut
                ? `Try again · ${data.tries_left} left`
                : "Back to the exercise"
            }}
          </RouterLink>
        </div>
      </div>
      <p v-if="data.state === 'waiting'" class="paper mt-5 p-5" aria-live="polite">
        Your drawing is handed in.
        {{
          data.ahead
            ? `${data.ahead === 1 ? "One other is" : `${data.ahead} others are`} marked before it.`
            : "It is being marked."
        }}
        The result appears here by itself; you can leave this page.
      </p>
      <p v-else-if="data.state === 'failed'" role="alert" class="paper mt-5 p-5">
        Your drawing is kept but could not be marked. {{ data.trouble }} Your instructor can see this too.
      </p>
      <p v-else-if="data.state === 'kept'" class="paper mt-5 p-5" aria-live="polite">
        Your drawing is with your instructor, who looks at it before you get it back. It appears here when it
        is returned.
      </p>
      <div v-else class="mt-4 grid grid-cols-[minmax(0,1fr)] gap-5 lg:grid-cols-[minmax(0,1fr)_29rem]">
        <section
          class="sticky top-0 z-20 -mx-5 h-[44vh] min-h-64 border-b border-rule bg-desk p-1 sm:mx-0 lg:static lg:z-auto lg:h-[calc(100dvh-12rem)] lg:border-0 lg:p-0"
          data-drawing
        >
          <DrawingSheet
            ref="sheet"
            label="Your drawing"
            :drawn="data.drawn"
            show="drawing"
            :balloons="places.balloons"
            :wrong-drawn="places.wrongDrawn"
            :chosen-drawn="places.chosenDrawn"
            :chosen-balloon="chosen"
            :lens="places.lens"
            :sketch="places.sketch"
            :links="places.links"
            :pins="places.pins"
            :chosen-pin="places.pin"
            @balloon="places.choose"
            @pin="(n) => (places.pin = n)"
          />
        </section>
        <section class="min-w-0 space-y-3 lg:relative lg:max-h-[calc(100dvh-12rem)] lg:overflow-y-auto">
          <p v-if="full" class="paper p-4 text-lg font-semibold">Everything asked for is met.</p>
          <p v-else-if="data.detail === 'score'" class="paper p-4 text-ink2">
            This exercise shows only the marks. Compare your drawing with the exercise sheet, dimension by
            dimension, then try again.
          </p>
          <template v-else>
            <VerdictCounts v-if="data.verdicts" :verdicts="data.verdicts" />
            <h2 v-if="data.causes.length" class="text-ink2">What went wrong, and how to avoid it</h2>
            <CauseCard
              v-for="c in data.causes"
              :key="c.id"
              :cause="c"
              :yours="yoursOf(c.explains)"
              :board="data.board_id"
              teaching
              :chosen="cause === c.id || places.current?.causes.includes(c.id) === true"
              @choose="places.chooseCause(c)"
            />
          </template>
          <section v-if="data.comments.length" class="paper p-4">
            <h2 class="mb-2 text-ink2">Comments</h2>
            <CommentList :comments="data.comments" :chosen="places.pin" @choose="places.choosePin" />
          </section>
          <p v-for="n in data.notes" :key="n.says" class="text-sm text-ink2">{{ n.says }}</p>
          <template v-if="data.findings.length">
            <div class="flex flex-wrap items-baseline justify-between gap-x-4">
              <h2 class="text-ink2">Inspection list</h2>
              <label class="flex items-center gap-1.5 text-sm text-ink2">
                <input v-model="places.every" type="checkbox" class="accent-teal" /> all numbers on the
                drawing
              </label>
            </div>
            <div class="paper overflow-x-auto">
              <InspectionList
                :rows="rows"
                :chosen="chosen"
                :unit="unit"
                :numbers="data.detail === 'numbers'"
                :board="data.board_id"
                @choose="places.choose"
                @point="(n) => (places.pointed = n)"
              />
            </div>
          </template>
        </section>
      </div>
    </template>
  </main>
</template>
