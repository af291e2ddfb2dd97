<script setup lang="ts">
/** What was measured between two picks, and what the second would come to; nothing of the drawing changes. */
import { unitOf } from "../../board/rulers";
import type { MeasureState } from "../../board/useMeasure";

const props = defineProps<{ measure: MeasureState; unit: string }>();
const emit = defineEmits<{ use: [writes: string] }>();
const m = props.measure;
const said = (told: readonly { name: string; shows: string }[]) =>
  told.map((t) => `${t.name} ${t.shows} ${unitOf(t.name, props.unit)}`.replace(" °", "°")).join(" · ");
</script>

<template>
  <section class="paper px-3 py-2" aria-label="Measuring" data-measuring>
    <p class="flex items-baseline justify-between gap-3">
      <strong>Measure</strong>
      <button type="button" class="text-sm text-teal underline" @click="m.begin()">done</button>
    </p>
    <p class="text-sm text-ink2" aria-live="polite">
      <template v-if="!m.first.value">Press two places, or two pieces, one after the other.</template>
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
          {{ r.from }} to {{ r.to }}
          <button v-if="r.writes" type="button" class="text-teal underline" @click="emit('use', r.writes)">
            write it<span class="sr-only">: the distance of {{ r.from }} and {{ r.to }}</span>
          </button>
          <button type="button" class="text-teal underline" @click="m.forget(r.key)">
            forget<span class="sr-only">: {{ r.from }} to {{ r.to }}</span>
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
