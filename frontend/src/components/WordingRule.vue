<script setup lang="ts">
/** What a wording is held against: the key's own, a pattern, or something about the student. */
import { computed } from "vue";
import { WORDING_FIELDS, type Requirement } from "../rules";
import ChoiceList from "./ChoiceList.vue";
import SwitchMark from "./SwitchMark.vue";

const props = defineProps<{ requirement: Requirement }>();
const emit = defineEmits<{ set: [values: Partial<Requirement>] }>();
const way = computed<string>(() =>
  props.requirement.by === "field" ? `field:${props.requirement.pattern}` : (props.requirement.by ?? "fixed"),
);
const ways = [
  { value: "fixed", word: "as in the key" },
  ...WORDING_FIELDS.map((f) => ({ value: `field:${f.value}`, word: f.word })),
  { value: "pattern", word: "a pattern" },
];
function setWay(value: string | number | null): void {
  if (typeof value !== "string") return;
  const [by, field] = value.split(":") as [Requirement["by"], string | undefined];
  emit("set", { by, pattern: field ?? (by === "pattern" ? props.requirement.pattern || "*" : "") });
}
</script>

<template>
  <div class="flex flex-wrap items-center gap-2 text-sm">
    <span>Text is</span>
    <ChoiceList
      :label="`Text of ${requirement.name}`"
      small
      :choices="ways"
      :model-value="way"
      @update:model-value="setWay"
    />
    <input
      v-if="requirement.by === 'pattern'"
      class="field !w-40 !px-1.5 !py-0.5"
      :value="requirement.pattern"
      :aria-label="`Pattern of ${requirement.name}`"
      @change="(e) => emit('set', { pattern: (e.target as HTMLInputElement).value.trim() || '*' })"
    />
    <SwitchMark
      :model-value="requirement.any_case ?? false"
      :label="`Any letter case for ${requirement.name}`"
      @update:model-value="(v) => emit('set', { any_case: v })"
    />
    any letter case
  </div>
</template>
