<script setup lang="ts">
import { computed, nextTick, proxyRefs, ref, watch } from "vue";
import { useRoute, useRouter } from "vue-router";
import type { Verdict } from "../api/client";
import CauseCard from "../components/CauseCard.vue";
import ChoiceList from "../components/ChoiceList.vue";
import ChoiceRow from "../components/ChoiceRow.vue";
import DrawingSheet from "../components/DrawingSheet.vue";
import InspectionList from "../components/InspectionList.vue";
import StateNote from "../components/StateNote.vue";
import CommentDialog from "../components/marking/CommentDialog.vue";
import CommentList from "../components/marking/CommentList.vue";
import DifferencesDialog from "../components/marking/DifferencesDialog.vue";
import HistoryDialog from "../components/marking/HistoryDialog.vue";
import KeysDialog from "../components/marking/KeysDialog.vue";
import LayersBeside from "../components/marking/LayersBeside.vue";
import MarkingActs from "../components/marking/MarkingActs.vue";
import MarkingBar from "../components/marking/MarkingBar.vue";
import MarkingNotes from "../components/marking/MarkingNotes.vue";
import OverrideDialog from "../components/marking/OverrideDialog.vue";
import { explainedBy, laidOn } from "../placement";
import { when } from "../times";
import { useTitle } from "../title";
import { useFindings } from "../useFindings";
import { useKeys } from "../useKeys";
import { useMarking } from "../useMarking";
import { usePlaces } from "../usePlaces";
import { useRemarks, type Dialog } from "../useRemarks";

const route = useRoute();
const router = useRouter();
const id = computed(() => Number(route.params.id));
const only = computed(() => (typeof route.query.only === "string" ? route.query.only : null));
const marking = useMarking(id, only);
const { data, isPending, error, refetch, said, busy, loading } = marking;

const show = ref<"key" | "both" | "drawing">("both");
const shows = [
  { value: "key", word: "Key" },
  { value: "both", word: "Both" },
  { value: "drawing", word: "Drawing" },
] as const;
const sheet = ref<InstanceType<typeof DrawingSheet> | null>(null);
const list = useFindings(computed(() => data.value?.marks ?? null));
const { findings, chosen, cause, verdict, kind, verdictChoices, kindChoices, rows, summary } = list;
const unit = computed(() => data.value?.marks?.unit ?? "mm");
const layersOpen = ref(false);
const open = ref<Dialog>(null);
const remarks = useRemarks(marking, data, open);
const { placing, place, draft, saveOverride, saveComment } = remarks;
const isOpen = (f: { verdict: Verdict }) => f.verdict !== "met";
const extent = computed(() => Math.max(data.value?.key.box[2] ?? 100, data.value?.key.box[3] ?? 100));
const places = proxyRefs(
  usePlaces({
    findings,
    comments: computed(() => data.value?.comments ?? []),
    extent,
    unit,
    sheet,
    chosen,
    cause,
    explained: list.explained,
  }),
);
useTitle(() => data.value && `${data.value.student}, ${data.value.issue.title}`);
const ABOUT_LAYERS = new Set(["layer", "layer-style", "style"]);
const showLayers = computed(
  () =>
    layersOpen.value || (!!places.current && isOpen(places.current) && ABOUT_LAYERS.has(places.current.kind)),
);
const markedLayers = computed(() => {
  const f = places.current;
  return f ? [f.layer, f.expected, f.measured].filter((v): v is string => typeof v === "string") : [];
});

function letGo(): void {
  remarks.letGo();
  places.letGo();
}
function step(by: number): void {
  const next = list.next(by);
  if (next !== null) places.choose(next);
}
function go(attempt: number | null | undefined): void {
  if (attempt)
    void router.push({ path: `/marking/${attempt}`, query: only.value ? { only: only.value } : {} });
}
function nextOpen(): void {
  if (data.value?.next_open) go(data.value.next_open);
  else marking.say("All marks of this class are returned.");
}
function fit(): void {
  sheet.value?.fit();
}
function another(): void {
  if (places.current) open.value = "override";
  else marking.say("Select a finding first: press the down arrow.");
}
/** What `?finding=` asks for is chosen as soon as the drawing is there. */
function begin(): void {
  const asked = Number(route.query.finding ?? NaN);
  const byOnly = only.value?.startsWith("finding-") ? Number(only.value.slice(8)) : NaN;
  const first = findings.value.find((f) => f.id === asked || f.id === byOnly);
  const slip = only.value?.startsWith("cause-")
    ? data.value?.marks?.causes.find((c) => c.code === only.value?.slice(6))
    : undefined;
  if (slip) places.chooseCause(slip);
  else if (first) places.choose(first.id);
  else fit();
}
watch(
  () => [data.value?.attempt_id, data.value?.marks === null] as const,
  (now, before) => {
    if (now[0] === before?.[0] && now[1] === before?.[1]) return;
    chosen.value = cause.value = places.pin = null;
    remarks.forget();
    void nextTick(begin);
  },
  { immediate: true },
);

/** Keys that do something to the drawing that is shown: none of them works while another is on its way. */
const onWhatIsShown: Record<string, () => unknown> = {
  ArrowDown: () => step(1),
  ArrowUp: () => step(-1),
  o: another,
  c: remarks.start,
  r: marking.giveBack,
  h: () => (open.value = "history"),
  l: () => (layersOpen.value = !layersOpen.value),
  f: fit,
  k: () => (show.value = "key"),
  b: () => (show.value = "both"),
  d: () => (show.value = "drawing"),
  Escape: letGo,
};
useKeys(
  (): Record<string, () => unknown> =>
    placing.value
      ? { Escape: letGo } // the arrows bring the cross to its place
      : {
          ...(loading.value ? {} : onWhatIsShown),
          ArrowRight: () => go(data.value?.next),
          ArrowLeft: () => go(data.value?.previous),
          n: nextOpen,
          "?": () => (open.value = "keys"),
        },
  () => ({ z: () => !loading.value && marking.undo(), "shift z": () => !loading.value && marking.redo() }),
  () => open.value !== null,
);

const laid = computed(() => (data.value?.marks ? laidOn(data.value.marks.placement) : ""));
const across = computed(() => explainedBy(data.value?.marks?.causes ?? []));
const differs = computed(() => (data.value?.differs && !data.value.differs.same ? data.value.differs : null));
</script>

<template>
  <div class="flex min-h-dvh flex-col lg:h-dvh">
    <MarkingBar
      :data="data"
      :busy="busy || loading"
      :loading="loading"
      @go="go"
      @give-back="marking.giveBack"
    />
    <main
      :inert="loading"
      :aria-busy="loading"
      class="relative min-h-0 flex-1 p-4"
      :class="[
        loading && 'opacity-40',
        data && 'grid gap-4 lg:grid-cols-[minmax(0,1fr)_29rem] lg:grid-rows-[minmax(0,1fr)]',
      ]"
    >
      <template v-if="isPending || error">
        <h1 class="sr-only">Marking</h1>
        <StateNote :loading="isPending" :error="error" :retry="() => refetch()" />
      </template>
      <template v-else-if="data">
        <h1 class="sr-only">Marking: {{ data.student }}, {{ data.issue.title }}</h1>
        <section
          class="sticky top-0 z-20 -mx-4 flex h-[50vh] min-w-0 flex-col gap-2 bg-desk px-4 pt-1 lg:static lg:z-auto lg:mx-0 lg:h-auto lg:p-0"
        >
          <p v-if="only" class="flex items-center gap-3 text-sm">
            <span class="min-w-0 truncate"
              >Reviewing <b>{{ data.only_name }}</b> · {{ data.of }} drawings</span
            >
            <RouterLink :to="`/marking/${data.attempt_id}`" class="whitespace-nowrap"
              >All students</RouterLink
            >
          </p>
          <p v-if="placing" class="text-sm font-semibold text-teal" aria-live="polite">
            Click the place on the drawing that the comment is about. Or move the cross with the arrow keys
            and press Enter.
            <button class="ml-2 underline" @click="remarks.letGo">Cancel</button>
          </p>
          <div class="min-h-0 flex-1">
            <DrawingSheet
              ref="sheet"
              :label="`Drawing of ${data.student} over the key`"
              :key-scene="data.key"
              :drawn="data.drawn"
              :show="show"
              :balloons="places.balloons"
              :chosen-balloon="chosen"
              :wrong-key="places.wrongKey"
              :wrong-drawn="places.wrongDrawn"
              :chosen-key="places.chosenKey"
              :chosen-drawn="places.chosenDrawn"
              :lens="places.lens"
              :sketch="places.sketch"
              :links="places.links"
              :pins="places.pins"
              :chosen-pin="places.pin"
              :placing="placing"
              @balloon="(n) => places.choose(n, false)"
              @pin="(n) => (places.pin = n)"
              @place="remarks.placed"
            />
          </div>
          <div class="screen-only flex flex-wrap items-center gap-x-3 gap-y-1 text-sm text-ink2">
            <ChoiceRow v-model="show" label="What is shown" :choices="shows" />
            <button class="press-quiet !px-2.5 !py-1" @click="fit">Fit</button>
            <span>{{ unit }} · {{ laid }}</span>
            <span class="ml-auto flex gap-3">
              <RouterLink v-if="data.drawn_here" :to="`/marking/${data.attempt_id}/made`"
                >how it was made</RouterLink
              >
              <a class="max-w-44 truncate" :href="`/api/attempts/${data.attempt_id}/file`">{{
                data.file_name
              }}</a>
              <template v-if="data.marks">
                <a :href="`/api/attempts/${data.attempt_id}/marked.pdf`">marked PDF</a>
                <a :href="`/api/attempts/${data.attempt_id}/marked.dxf`">marked DXF</a>
              </template>
            </span>
          </div>
        </section>
        <section class="flex min-h-0 min-w-0 flex-col gap-3">
          <p v-if="data.state === 'waiting'" class="paper p-4" aria-live="polite">
            Being marked. The result appears here by itself.
          </p>
          <div v-else-if="data.state === 'failed'" role="alert" class="paper border-l-4 !border-l-pencil p-4">
            This drawing could not be marked. {{ data.trouble }}
            <button class="press-quiet mt-2" :disabled="busy" @click="marking.markAgain">
              Mark it again
            </button>
          </div>
          <template v-if="data.marks">
            <div class="relative shrink-0 space-y-2 pr-0.5 lg:max-h-[48%] lg:overflow-y-auto">
              <MarkingNotes
                :data="data"
                :busy="busy"
                @differs="open = 'differs'"
                @mark-again="marking.markAgain"
              />
              <h2 class="text-ink2">{{ across }}</h2>
              <p v-if="!data.marks.causes.length" class="paper flex items-center gap-2 p-4">
                Everything asked for is met.
              </p>
              <CauseCard
                v-for="c in data.marks.causes"
                :key="c.id"
                :cause="c"
                :chosen="cause === c.id || places.current?.causes.includes(c.id) === true"
                @choose="places.chooseCause(c)"
              />
              <p v-for="n in data.marks.notes" :key="n.says" class="text-sm text-ink2">{{ n.says }}</p>
              <CommentList
                v-if="data.comments.length"
                :comments="data.comments"
                :chosen="places.pin"
                editable
                @choose="places.choosePin"
                @undo="(act) => marking.undo(act)"
              />
              <LayersBeside
                v-if="showLayers"
                :asked="data.layers_asked"
                :drawn="data.layers_drawn"
                :marked="markedLayers"
              />
            </div>
            <div class="flex flex-wrap items-center gap-x-3 gap-y-1">
              <h2 class="text-ink2">Inspection list</h2>
              <span class="ml-auto text-sm text-ink2">{{ summary }}</span>
            </div>
            <div class="screen-only -mt-1 flex flex-wrap items-center gap-2 text-sm">
              <ChoiceList v-model="verdict" label="Verdict" small :choices="verdictChoices" />
              <ChoiceList v-model="kind" label="Kind" small :choices="kindChoices" />
              <label class="flex items-center gap-1.5 text-ink2">
                <input v-model="places.every" type="checkbox" class="accent-teal" /> all numbers
              </label>
              <button v-if="cause" class="text-teal underline" @click="letGo">All findings</button>
            </div>
            <div class="paper relative min-h-0 flex-1 overflow-x-auto lg:overflow-y-auto">
              <InspectionList
                :rows="rows"
                :chosen="chosen"
                :unit="unit"
                numbers
                @choose="(n) => places.choose(n)"
                @point="(n) => (places.pointed = n)"
              />
            </div>
            <MarkingActs
              :chosen="!!places.current"
              :begun="!!draft"
              :busy="busy"
              @override="another"
              @comment="remarks.start"
              @undo="marking.undo()"
              @record="open = 'history'"
            />
          </template>
          <p class="screen-only hidden flex-wrap items-center gap-x-3 gap-y-1 text-sm text-ink2 lg:flex">
            <span><kbd class="keycap">↓</kbd> finding</span><span><kbd class="keycap">→</kbd> student</span>
            <span><kbd class="keycap">R</kbd> return</span>
            <button class="text-teal underline" @click="open = 'keys'">all keys</button>
            <span class="ml-auto"
              >{{ when(data.handed_in_at) }}<b v-if="data.late" class="text-near"> · late</b></span
            >
          </p>
        </section>
        <OverrideDialog
          :open="open === 'override'"
          :finding="places.current"
          :attempt="data.attempt_id"
          :busy="busy"
          @close="open = null"
          @save="saveOverride"
        />
        <CommentDialog
          v-model:text="draft"
          :open="open === 'comment'"
          :finding="places.current"
          :place="place"
          :busy="busy"
          @close="open = null"
          @pick="remarks.pickPlace"
          @save="saveComment"
        />
        <HistoryDialog
          :open="open === 'history'"
          :rows="data.history"
          :returned="data.returned !== 'no'"
          :busy="busy"
          @take-back="marking.takeBack"
          @close="open = null"
          @undo="(act) => marking.undo(act)"
        />
        <KeysDialog :open="open === 'keys'" @close="open = null" />
        <DifferencesDialog
          v-if="differs"
          :open="open === 'differs'"
          :differs="differs"
          :unit="unit"
          @close="open = null"
          @choose="(n) => ((open = null), places.choose(n))"
        />
      </template>
    </main>
    <p
      aria-live="polite"
      class="pointer-events-none fixed bottom-5 left-1/2 z-50 -translate-x-1/2 rounded-lg px-4 py-2 shadow-lg"
      :class="[said ? '' : 'sr-only', said?.wrong ? 'bg-pencil text-white' : 'bg-ink text-white']"
    >
      {{ said?.text }}
    </p>
  </div>
</template>
