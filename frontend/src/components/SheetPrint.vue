<script setup lang="ts">
/** The sheet to be printed: as PDF at true scale, on the paper that fits or another one of the unit's. */
import { computed, ref } from "vue";
import { PAPERS } from "../api/words";
import ChoiceList from "./ChoiceList.vue";

const props = defineProps<{ base: string; unit: string }>();
const paper = ref("");
const choices = computed(() => [
  { value: "", word: "paper that fits" },
  ...(props.unit === "in" || props.unit === "ft" ? PAPERS.inch : PAPERS.metric).map((p) => ({
    value: p,
    word: p,
  })),
]);
</script>

<template>
  <span class="inline-flex flex-wrap items-center gap-2">
    <a :href="`${base}/sheet.pdf${paper ? `?paper=${encodeURIComponent(paper)}` : ''}`"
      >Sheet as PDF, to scale</a
    >
    <ChoiceList v-model="paper" label="Paper" small :choices="choices" />
  </span>
</template>
