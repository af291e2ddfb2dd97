<script setup lang="ts">
/** Fixed marks for whole kinds of checks; empty fields leave it to the weights. Rule sets without charges also say what clutter costs. */
import { computed } from "vue";
import { CHARGED_KINDS } from "../api/words";
import { byKind, type Rules } from "../rules";
import NumberField from "./NumberField.vue";

const CHARGED: ReadonlySet<string> = new Set(CHARGED_KINDS);
const props = defineProps<{ rules: Rules }>();
const emit = defineEmits<{ change: [work: (next: Rules) => void] }>();
const kinds = computed(() =>
  byKind(props.rules).filter(
    (g) => g.requirements.some((r) => r.on) && !(props.rules.charges && CHARGED.has(g.id)),
  ),
);

function setKind(kind: string, value: number | null): void {
  emit("change", (next) => {
    const others = Object.entries(next.kind_marks ?? {}).filter(([name]) => name !== kind);
    next.kind_marks = Object.fromEntries(value === null ? others : [...others, [kind, value]]);
  });
}
</script>

<template>
  <div>
    <p class="text-sm font-semibold">Marks for all checks of a kind together</p>
    <p class="text-sm text-ink2">Empty: they share the rest by their weights.</p>
    <div class="mt-1 grid grid-cols-2 gap-x-4 gap-y-1">
      <label v-for="g in kinds" :key="g.id" class="flex items-center justify-between gap-2 text-sm">
        <span class="truncate">{{ g.name }}</span>
        <NumberField
          class="w-20 shrink-0"
          :value="rules.kind_marks?.[g.id] ?? null"
          empty
          small
          :most="rules.marks"
          why="the marks in all"
          :label="`Marks for ${g.name}`"
          @set="(v) => setKind(g.id, v)"
        />
      </label>
    </div>
    <div v-if="!rules.charges" class="mt-2 grid grid-cols-2 gap-x-4 text-sm">
      <label class="flex items-center justify-between gap-2">
        Each extra object costs
        <NumberField
          class="w-20 shrink-0"
          :value="rules.clutter_each ?? null"
          empty
          small
          :most="rules.marks"
          why="the marks in all"
          @set="(v) => emit('change', (next) => (next.clutter_each = v))"
        />
      </label>
      <label class="flex items-center justify-between gap-2">
        all together at most
        <NumberField
          class="w-20 shrink-0"
          :value="rules.clutter_cap ?? null"
          empty
          small
          :most="rules.marks"
          why="the marks in all"
          @set="(v) => emit('change', (next) => (next.clutter_cap = v))"
        />
      </label>
    </div>
  </div>
</template>
