<script setup lang="ts">
/** Fixed marks for whole kinds of checks, and what clutter costs; empty fields leave it to the weights. */
import { computed } from "vue";
import { byKind, type Rules } from "../rules";

const props = defineProps<{ rules: Rules }>();
const emit = defineEmits<{ change: [work: (next: Rules) => void] }>();
const kinds = computed(() => byKind(props.rules).filter((g) => g.requirements.some((r) => r.on)));

function numberOf(e: Event, before: number | null | undefined): number | null | undefined {
  const input = e.target as HTMLInputElement;
  const text = input.value.trim().replace(",", ".");
  if (!text) return null;
  const value = Number(text);
  if (Number.isFinite(value) && value >= 0 && value <= props.rules.marks) return value;
  input.value = before === null || before === undefined ? "" : String(before);
  return undefined;
}
function setKind(kind: string, e: Event): void {
  const value = numberOf(e, props.rules.kind_marks?.[kind]);
  if (value === undefined) return;
  emit("change", (next) => {
    const others = Object.entries(next.kind_marks ?? {}).filter(([name]) => name !== kind);
    next.kind_marks = Object.fromEntries(value === null ? others : [...others, [kind, value]]);
  });
}
function setClutter(name: "clutter_each" | "clutter_cap", e: Event): void {
  const value = numberOf(e, props.rules[name]);
  if (value !== undefined) emit("change", (next) => (next[name] = value));
}
</script>

<template>
  <div>
    <p class="text-sm font-semibold">Marks for all checks of a kind together</p>
    <p class="text-sm text-ink2">Left empty, they share what remains by their weights.</p>
    <div class="mt-1 grid grid-cols-2 gap-x-4 gap-y-1">
      <label v-for="g in kinds" :key="g.id" class="flex items-center justify-between gap-2 text-sm">
        <span class="truncate">{{ g.name }}</span>
        <input
          class="field !w-16 !px-1.5 !py-0.5 text-right"
          inputmode="decimal"
          :value="rules.kind_marks?.[g.id] ?? ''"
          :aria-label="`Marks for ${g.name}`"
          @change="(e) => setKind(g.id, e)"
        />
      </label>
    </div>
    <div class="mt-2 grid grid-cols-2 gap-x-4 text-sm">
      <label class="flex items-center justify-between gap-2">
        Each thing left over costs
        <input
          class="field !w-16 !px-1.5 !py-0.5 text-right"
          inputmode="decimal"
          :value="rules.clutter_each ?? ''"
          @change="(e) => setClutter('clutter_each', e)"
        />
      </label>
      <label class="flex items-center justify-between gap-2">
        all of them at most
        <input
          class="field !w-16 !px-1.5 !py-0.5 text-right"
          inputmode="decimal"
          :value="rules.clutter_cap ?? ''"
          @change="(e) => setClutter('clutter_cap', e)"
        />
      </label>
    </div>
  </div>
</template>
