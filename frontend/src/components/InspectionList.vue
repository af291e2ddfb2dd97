<script setup lang="ts">
/** The inspection list: number, characteristic, asked, measured, off by, verdict. */
import { nextTick, ref, watch } from "vue";
import type { Schemas, Verdict } from "../api/client";
import { deviation, marks, shown } from "../numbers";
import VerdictSign from "./VerdictSign.vue";
import YourSteps from "./YourSteps.vue";

export interface Row {
  id: number;
  kind: string;
  name: string;
  verdict: Verdict;
  expected?: unknown;
  measured?: unknown;
  deviation?: number | null;
  earned: number;
  possible: number;
  /** What is taken away for it, beside what it did not earn. */
  taken?: number | null;
  follows?: number | null;
  why?: string | null;
  /** Why a person set the verdict, and what the engine had found. */
  reason?: string | null;
  by_hand?: boolean;
  engine?: { verdict: Verdict } | null;
  /** The steps of the board that drew what it is about. */
  yours?: Schemas["YourStepOut"][];
}
const props = defineProps<{
  rows: readonly Row[];
  chosen: number | null;
  unit: string;
  numbers: boolean;
  /** The board on which it was drawn, where its student reads. */
  board?: number | null;
}>();
const emit = defineEmits<{ choose: [id: number]; point: [id: number | null] }>();

const body = ref<HTMLElement | null>(null);
watch(
  () => props.chosen,
  () => nextTick(() => body.value?.querySelector("[aria-current]")?.scrollIntoView({ block: "nearest" })),
);
const ring: Record<Verdict, string> = {
  met: "border-met-edge text-ink2",
  near: "border-near text-near",
  missed: "border-pencil text-pencil",
  absent: "border-pencil text-pencil border-dashed",
  follows: "border-follows text-follows",
};
const full: Record<Verdict, string> = {
  met: "bg-teal border-teal text-white",
  near: "bg-near border-near text-white",
  missed: "bg-pencil border-pencil text-white",
  absent: "bg-pencil border-pencil text-white",
  follows: "bg-follows border-follows text-white",
};
const wide = (r: Row) =>
  Array.isArray(r.expected) || typeof r.expected === "string" || typeof r.measured === "string";
</script>

<template>
  <table class="w-full border-collapse bg-white text-[0.93rem]">
    <thead class="sticky top-0 z-10 bg-bar shadow-[0_1px_0_var(--color-rule)]">
      <tr>
        <th class="cell-head w-11"><span class="sr-only">Number</span></th>
        <th class="cell-head">Characteristic</th>
        <template v-if="numbers">
          <th class="cell-head !text-right">
            asked<span class="sr-only"> in {{ unit }}</span>
          </th>
          <th class="cell-head !text-right">measured</th>
          <th class="cell-head !text-right">off by</th>
        </template>
        <th v-else class="cell-head !text-right">marks</th>
        <th class="cell-head w-9"><span class="sr-only">Verdict</span></th>
      </tr>
    </thead>
    <tbody ref="body">
      <tr
        v-for="r in rows"
        :key="r.id"
        class="cursor-pointer scroll-mt-[52vh] border-t border-rule align-top hover:bg-teal-soft/60 lg:scroll-mt-10"
        :class="r.id === chosen && (r.verdict === 'met' ? 'bg-teal-soft' : 'bg-pencil-soft')"
        :aria-current="r.id === chosen || undefined"
        @click="emit('choose', r.id)"
        @mouseenter="emit('point', r.id)"
        @mouseleave="emit('point', null)"
        @focusin="emit('point', r.id)"
        @focusout="emit('point', null)"
      >
        <td class="py-2 pl-2">
          <button
            class="grid h-6 min-w-6 place-items-center rounded-full border-[1.5px] px-1 text-[0.8rem] font-semibold"
            :class="r.id === chosen ? full[r.verdict] : ring[r.verdict]"
            :aria-label="`Finding ${r.id}`"
            @click.stop="emit('choose', r.id)"
          >
            {{ r.id }}
          </button>
        </td>
        <td class="px-1.5 py-2">
          <span :class="r.follows ? 'block border-l-2 border-follows/50 pl-2.5' : ''">
            {{ r.name }}
            <span v-if="r.follows" class="block text-[0.82rem] text-follows">follows {{ r.follows }}</span>
            <YourSteps
              v-if="r.verdict !== 'met' && r.yours"
              class="block"
              :yours="r.yours"
              :board="board ?? null"
            />
          </span>
          <span v-if="r.reason" class="block text-[0.85rem] text-teal">
            set by hand<template v-if="r.engine">, was {{ r.engine.verdict }}</template
            >: {{ r.reason }}
          </span>
          <span v-if="r.id === chosen && r.why" class="block text-[0.85rem] text-ink2">{{ r.why }}</span>
          <span v-if="r.id === chosen && numbers" class="block text-[0.85rem] text-ink2">
            <template v-if="r.possible">Earned {{ marks(r.earned) }} of {{ marks(r.possible) }}. </template>
            <template v-if="r.taken">{{ marks(r.taken) }} deducted.</template>
          </span>
          <span v-if="numbers && wide(r)" class="block text-[0.85rem] text-ink2">
            {{ shown(r.expected, r.kind, unit)
            }}<template v-if="r.verdict !== 'met' && r.measured !== null">
              → <b class="text-ink">{{ shown(r.measured, r.kind, unit) }}</b></template
            >
          </span>
        </td>
        <template v-if="numbers">
          <td class="px-1.5 py-2 text-right font-medium whitespace-nowrap">
            {{ wide(r) ? "" : shown(r.expected, r.kind, unit) }}
          </td>
          <td class="px-1.5 py-2 text-right font-medium whitespace-nowrap">
            {{ wide(r) ? "" : shown(r.measured, r.kind, unit) }}
          </td>
          <td class="px-1.5 py-2 text-right font-medium whitespace-nowrap">
            {{ deviation(r.deviation ?? null, r.kind, unit) }}
          </td>
        </template>
        <td v-else class="px-1.5 py-2 text-right whitespace-nowrap">
          <template v-if="r.possible || !r.taken">{{ marks(r.earned) }} of {{ marks(r.possible) }}</template>
          <span v-if="r.taken" class="block text-pencil">−{{ marks(r.taken) }}</span>
        </td>
        <td class="py-2 pr-2"><VerdictSign :verdict="r.verdict" /></td>
      </tr>
      <tr v-if="!rows.length">
        <td colspan="6" class="px-4 py-5 text-ink2">No finding matches this filter.</td>
      </tr>
    </tbody>
  </table>
</template>
