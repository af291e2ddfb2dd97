<script setup lang="ts">
import { RadioGroup, RadioGroupOption } from "@headlessui/vue";
import { keepPreviousData, useQuery } from "@tanstack/vue-query";
import { useEventListener } from "@vueuse/core";
import { computed, nextTick, ref, watch } from "vue";
import { useRoute, useRouter } from "vue-router";
import { get, type Schemas, type Verdict } from "../api/client";
import AppBar from "../components/AppBar.vue";
import ChoiceList from "../components/ChoiceList.vue";
import CauseCard from "../components/CauseCard.vue";
import DrawingSheet from "../components/DrawingSheet.vue";
import InspectionList from "../components/InspectionList.vue";
import StateNote from "../components/StateNote.vue";
import { lensFor } from "../lens";
import { fixed, marks, when } from "../numbers";
import { OF_ONE } from "../rules";
import type { Point } from "../view";

type Finding = Schemas["FindingOut"];
const route = useRoute();
const router = useRouter();
const id = computed(() => Number(route.params.id));
const { data, isPending, error, refetch } = useQuery({
  queryKey: computed(() => ["marking", id.value]),
  queryFn: () => get<Schemas["MarkingOut"]>(`/attempts/${id.value}`),
  placeholderData: keepPreviousData,
  refetchInterval: (query) => (query.state.data?.state === "waiting" ? 1000 : false),
});

const show = ref<"key" | "both" | "drawing">("both");
const shows = [
  { value: "key", word: "Key" },
  { value: "both", word: "Both" },
  { value: "drawing", word: "Drawing" },
] as const;
const verdict = ref<"open" | "all" | Verdict>("open");
const kind = ref("all");
const chosen = ref<number | null>(null);
const cause = ref<number | null>(null);
const sheet = ref<InstanceType<typeof DrawingSheet> | null>(null);

const findings = computed<Finding[]>(() => data.value?.marks?.findings ?? []);
const unit = computed(() => data.value?.marks?.unit ?? "mm");
const kinds = computed(() => [...new Set(findings.value.map((f) => f.kind))]);
const verdictChoices: { value: "open" | "all" | Verdict; word: string }[] = [
  { value: "open", word: "open first" },
  { value: "all", word: "in order" },
  ...(["missed", "absent", "near", "follows", "met"] as const).map((v) => ({ value: v, word: v })),
];
const kindChoices = computed(() => [
  { value: "all", word: "every kind" },
  ...kinds.value.map((k) => ({ value: k, word: k.replace("-", " ") })),
]);
const counts = computed(() => {
  const out: Partial<Record<Verdict, number>> = {};
  for (const f of findings.value) out[f.verdict] = (out[f.verdict] ?? 0) + 1;
  return out;
});
const isOpen = (f: Finding) => f.verdict !== "met";
const rows = computed(() => {
  const explained = cause.value ? new Set(data.value?.marks?.causes.find((c) => c.id === cause.value)?.explains) : null;
  const wanted = findings.value.filter(
    (f) =>
      (verdict.value === "all" || (verdict.value === "open" ? isOpen(f) : f.verdict === verdict.value)) &&
      (kind.value === "all" || f.kind === kind.value) &&
      (!explained || explained.has(f.id) || (f.follows !== null && explained.has(f.follows ?? -1))),
  );
  if (verdict.value !== "open") return wanted;
  const first = [...wanted].sort((a, b) => Number(a.verdict === "follows") - Number(b.verdict === "follows"));
  return kind.value === "all" && !explained ? [...first, ...findings.value.filter((f) => !isOpen(f))] : first;
});
const current = computed(() => findings.value.find((f) => f.id === chosen.value) ?? null);

const balloons = computed(() => {
  const out = findings.value
    .filter((f) => isOpen(f) && f.at && f.kind !== "whole")
    .map((f) => ({ id: f.id, at: (f.seen_at ?? f.at) as Point, verdict: f.verdict }));
  const one = current.value;
  if (one?.at && !out.some((b) => b.id === one.id)) out.push({ id: one.id, at: one.at as Point, verdict: one.verdict });
  return out;
});
const wrongKey = computed(
  () => new Set(findings.value.filter((f) => f.verdict === "absent").flatMap((f) => f.features)),
);
const wrongDrawn = computed(() => {
  const out = new Set<string>();
  for (const f of findings.value) {
    if (f.verdict !== "missed" && f.verdict !== "near") continue;
    if (OF_ONE.has(f.kind)) f.partners.forEach((p) => out.add(p));
    f.items.forEach((i) => i.feature && i.charged && out.add(i.feature));
  }
  return out;
});
const chosenKey = computed(() => new Set(current.value?.features ?? []));
const chosenDrawn = computed(() => new Set(current.value?.partners ?? []));
const extent = computed(() => Math.max(data.value?.key.box[2] ?? 100, data.value?.key.box[3] ?? 100));
const lens = computed(() => {
  const f = current.value;
  return f ? lensFor(f, (f.seen_at ?? f.at) as Point | null, extent.value, unit.value) : null;
});

function choose(finding: number | null, zoom = true): void {
  chosen.value = finding;
  const f = current.value;
  const at = (f?.seen_at ?? f?.at) as Point | null | undefined;
  if (!zoom) return;
  if (!f || !at) sheet.value?.fit();
  else sheet.value?.lookAt(at, extent.value / 7);
}
function chooseCause(c: Schemas["CauseOut"]): void {
  if (cause.value === c.id) {
    cause.value = null;
    choose(null);
    return;
  }
  cause.value = c.id;
  choose(c.explains[0] ?? null);
}
function step(by: number): void {
  const list = rows.value.some(isOpen) ? rows.value.filter((f) => isOpen(f) || f.id === chosen.value) : rows.value;
  if (!list.length) return;
  const here = list.findIndex((f) => f.id === chosen.value);
  const next = here < 0 ? (by > 0 ? 0 : list.length - 1) : (here + by + list.length) % list.length;
  choose(list[next]?.id ?? null);
}
function toAttempt(other: number | null | undefined): void {
  if (other) void router.push(`/marking/${other}`);
}
function fit(): void {
  sheet.value?.fit();
}
watch(
  () => data.value?.attempt_id,
  () => {
    chosen.value = cause.value = null;
    void nextTick(fit);
  },
);

useEventListener(window, "keydown", (e: KeyboardEvent) => {
  const typing = (e.target as HTMLElement).closest(
    "input, textarea, select, [role=menu], [role=radiogroup], [role=listbox], [aria-haspopup]",
  );
  if (typing || e.ctrlKey || e.metaKey || e.altKey) return;
  const acts: Record<string, () => void> = {
    ArrowDown: () => step(1),
    ArrowUp: () => step(-1),
    ArrowRight: () => toAttempt(data.value?.next),
    ArrowLeft: () => toAttempt(data.value?.previous),
    f: fit,
    k: () => (show.value = "key"),
    b: () => (show.value = "both"),
    d: () => (show.value = "drawing"),
    Escape: () => {
      cause.value = null;
      choose(null);
    },
  };
  const act = acts[e.key];
  if (act) {
    e.preventDefault();
    act();
  }
});

const summary = computed(() =>
  (["missed", "absent", "near", "follows", "met"] as const)
    .filter((v) => counts.value[v])
    .map((v) => `${counts.value[v]} ${v}`)
    .join(" · "),
);
const placed = computed(() => {
  const p = data.value?.marks?.placement;
  if (!p) return "";
  const words: string[] = [];
  if (p.scale !== 1) words.push(`scaled ${fixed(p.scale, 4)} times`);
  if (p.mirror) words.push("mirrored");
  if (p.turn) words.push(`turned ${fixed(p.turn, 2)}°`);
  if (p.shift[0] || p.shift[1]) words.push(`shifted ${p.shift.map((v) => fixed(v, 3)).join(", ")}`);
  return words.length ? `laid on the key ${words.join(", ")}` : "lies as drawn";
});
const across = computed(() => {
  const list = data.value?.marks?.causes ?? [];
  const n = list.reduce((sum, c) => sum + c.explains.length, 0);
  return list.length === 1 && n > 1 ? `One slip explains ${n} findings` : "What happened";
});
</script>

<template>
  <div class="flex min-h-dvh flex-col lg:h-dvh">
    <AppBar>
      <template #start>
        <nav v-if="data" aria-label="Where this is" class="hidden min-w-0 truncate text-ink2 lg:block">
          <RouterLink :to="`/issues/${data.issue.id}`" class="text-ink2">{{ data.issue.title }}</RouterLink> ·
          <b class="text-ink">{{ data.issue.class_name }}</b>
        </nav>
        <span v-else></span>
      </template>
      <template v-if="data" #middle>
        <button
          class="press-quiet !px-2"
          :disabled="!data.previous"
          aria-label="Previous student"
          @click="toAttempt(data.previous)"
        >
          <span aria-hidden="true">‹</span>
        </button>
        <p class="min-w-0 truncate px-3">
          <b>{{ data.student }}</b>
          <span class="ml-2 text-ink2">{{ data.place }} of {{ data.of }}</span>
        </p>
        <ChoiceList
          v-if="data.tries.length > 1"
          label="Which try"
          small
          class="mr-3 text-sm"
          :choices="data.tries.map((t) => ({ value: t.attempt_id, word: `try ${t.number}` }))"
          :model-value="data.attempt_id"
          @update:model-value="toAttempt"
        />
        <button
          class="press-quiet !px-2"
          :disabled="!data.next"
          aria-label="Next student"
          @click="toAttempt(data.next)"
        >
          <span aria-hidden="true">›</span>
        </button>
      </template>
      <template #end>
        <p v-if="data?.marks" class="whitespace-nowrap">
          <b class="text-xl">{{ marks(data.marks.earned) }}</b>
          <span class="ml-1 text-sm text-ink2">of {{ marks(data.marks.possible).replace(/\.00$/, "") }}</span>
        </p>
      </template>
    </AppBar>
    <main v-if="isPending || error" class="p-6">
      <StateNote :loading="isPending" :error="error" :retry="() => refetch()" />
    </main>
    <main
      v-else-if="data"
      class="grid min-h-0 flex-1 gap-4 p-4 lg:grid-cols-[minmax(0,1fr)_29rem] lg:grid-rows-[minmax(0,1fr)]"
    >
      <section class="flex h-[70vh] min-w-0 flex-col gap-2 lg:h-auto">
        <div class="min-h-0 flex-1">
          <DrawingSheet
            ref="sheet"
            :label="`Drawing of ${data.student} over the key`"
            :key-scene="data.key"
            :drawn="data.drawn"
            :show="show"
            :balloons="balloons"
            :chosen-balloon="chosen"
            :wrong-key="wrongKey"
            :wrong-drawn="wrongDrawn"
            :chosen-key="chosenKey"
            :chosen-drawn="chosenDrawn"
            :lens="lens"
            @balloon="(n) => choose(n, false)"
          />
        </div>
        <div class="screen-only flex flex-wrap items-center gap-x-3 gap-y-1 text-sm text-ink2">
          <RadioGroup v-model="show" class="flex overflow-hidden rounded-lg border border-[#b9c4c0] bg-white">
            <RadioGroupOption
              v-for="s in shows"
              :key="s.value"
              v-slot="{ checked }"
              :value="s.value"
              class="cursor-pointer"
            >
              <span class="block px-3 py-1.5" :class="checked ? 'bg-teal-soft font-semibold text-teal' : ''">{{
                s.word
              }}</span>
            </RadioGroupOption>
          </RadioGroup>
          <button class="press-quiet !px-2.5 !py-1" @click="fit">Fit</button>
          <span class="ml-auto">{{ unit }} · {{ placed }}</span>
          <a :href="`/api/attempts/${data.attempt_id}/file`">{{ data.file_name }}</a>
        </div>
      </section>
      <section class="flex min-h-0 min-w-0 flex-col gap-3">
        <p v-if="data.state === 'waiting'" class="paper p-4" aria-live="polite">
          Being marked. The result appears here by itself.
        </p>
        <p v-else-if="data.state === 'failed'" role="alert" class="paper border-l-4 !border-l-pencil p-4">
          This drawing could not be marked. {{ data.trouble }}
        </p>
        <template v-if="data.marks">
          <div class="max-h-[42%] shrink-0 space-y-2 overflow-y-auto pr-0.5">
            <h2 class="text-ink2">{{ across }}</h2>
            <p v-if="!data.marks.causes.length" class="paper flex items-center gap-2 p-4">
              Everything asked for is met.
            </p>
            <CauseCard
              v-for="c in data.marks.causes"
              :key="c.id"
              :cause="c"
              :chosen="cause === c.id || current?.causes.includes(c.id) === true"
              @choose="chooseCause(c)"
            />
            <p v-for="n in data.marks.notes" :key="n.says" class="text-sm text-ink2">{{ n.says }}</p>
          </div>
          <div class="flex flex-wrap items-center gap-x-3 gap-y-1">
            <h2 class="text-ink2">Inspection list</h2>
            <span class="ml-auto text-sm text-ink2">{{ summary }}</span>
          </div>
          <div class="screen-only -mt-1 flex gap-2 text-sm">
            <ChoiceList v-model="verdict" label="Verdict" small :choices="verdictChoices" />
            <ChoiceList v-model="kind" label="Kind" small :choices="kindChoices" />
            <button v-if="cause" class="text-teal underline" @click="((cause = null), choose(null))">
              All findings
            </button>
          </div>
          <div class="paper min-h-0 flex-1 overflow-y-auto">
            <InspectionList :rows="rows" :chosen="chosen" :unit="unit" numbers @choose="(n) => choose(n)" />
          </div>
        </template>
        <p class="screen-only hidden flex-wrap items-center gap-x-3 gap-y-1 text-sm text-ink2 lg:flex">
          <span><kbd class="keycap">↓</kbd> next finding</span><span><kbd class="keycap">→</kbd> next student</span>
          <span><kbd class="keycap">F</kbd> fit</span>
          <span class="ml-auto">{{ when(data.handed_in_at) }}<b v-if="data.late" class="text-near"> · late</b></span>
        </p>
      </section>
    </main>
  </div>
</template>
