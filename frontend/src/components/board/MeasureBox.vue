<script setup lang="ts">
/** What was measured between two picks, and what the second would come to; nothing of the drawing changes. */
import { measureCalled, unitOf } from "../../board/rulers";
import type { MeasureState } from "../../board/useMeasure";

const props = defineProps<{ measure: MeasureState; unit: string }>();
const emit = defineEmits<{ use: [writes: string] }>();
const m = props.measure;
const WHAT = ["between", "inside"] as const;
const said = (told: readonly { name: string; shows: string }[]) =>
  told
    .map((t) => `${measureCalled(t.name)} ${t.shows} ${unitOf(t.name, props.unit)}`.replace(" °", "°"))
    .join(" · ");
</script>

<template>
  <section class="paper px-3 py-2" aria-label="Measuring" data-measuring>
    <p class="flex flex-wrap items-baseline justify-between gap-x-3 gap-y-1 whitespace-nowrap">
      <strong>Measure</strong>
      <span
        class="order-last flex gap-2 text-sm min-[1100px]:order-none"
        role="group"
        aria-label="What is measured"
      >
        <button
          v-for="what in WHAT"
          :key="what"
          type="button"
          class="pill"
          :class="(what === 'inside') === m.inside.value && 'active'"
          :aria-pressed="(what === 'inside') === m.inside.value"
          @click="m.measures(what)"
        >
          {{ what === "inside" ? "area and perimeter" : "between two" }}
        </button>
      </span>
      <button type="button" class="text-sm text-teal underline" @click="m.begin()">done</button>
    </p>
    <p class="text-sm text-ink2" aria-live="polite">
      <template v-if="m.inside.value"
        >Click inside a closed outline.<strong v-if="m.live.value.length" class="ml-1 text-teal">{{
          said(m.live.value)
        }}</strong></template
      >
      <template v-else-if="!m.first.value">Click two places, or two objects, one after the other.</template>
      <template v-else
        >from {{ m.first.value
        }}<strong v-if="m.live.value.length" class="text-teal">: {{ said(m.live.value) }}</strong></template
      >
    </p>
    <p v-if="m.trouble.value" class="text-pencil" role="alert">{{ m.trouble.value }}</p>
    <ol v-if="m.results.value.length" class="results" aria-label="Measured">
      <li v-for="r in m.results.value" :key="r.key">
        <strong>{{ said(r.told.slice(0, 1)) }}</strong><span v-if="r.told.length > 1">
          · {{ said(r.told.slice(1)) }}</span
        >
        <span class="flex flex-wrap gap-x-3 text-sm text-ink2">
          {{ r.to ? `${r.from} to ${r.to}` : r.from }}
          <button v-if="r.writes" type="button" class="text-teal underline" @click="emit('use', r.writes)">
            Use in the sentence<span class="sr-only">: the distance of {{ r.from }} and {{ r.to }}</span>
          </button>
          <button type="button" class="text-teal underline" @click="m.forget(r.key)">
            forget<span class="sr-only">: {{ r.to ? `${r.from} to ${r.to}` : r.from }}</span>
          </button>
        </span>
      </li>
    </ol>
  </section>
</template>

<style scoped>
.results {
  max-height: 11rem;
  overflow-y: auto;
}
.results li + li {
  border-top: 1px solid var(--color-rule);
}
</style>
