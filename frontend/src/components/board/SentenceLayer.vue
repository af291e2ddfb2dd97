<script setup lang="ts">
/** Beside the sentence: on which layer its step will be drawn; another one can be chosen for this step. */
import { computed } from "vue";
import type { LayersState } from "../../board/useLayers";
import type { SentenceState } from "../../board/useSentence";
import LayerDot from "./LayerDot.vue";

const props = defineProps<{ sentence: SentenceState; layers: LayersState }>();
const name = computed(() => props.sentence.writing.value?.layer ?? props.layers.current.value);
const names = computed(() => [
  ...new Set([...props.layers.rows.value.map((r) => r.name), ...props.layers.usual.value, name.value]),
]);
const lineType = computed(() => props.layers.rows.value.find((r) => r.name === name.value)?.line_type);
function choose(e: Event): void {
  props.sentence.drawOn((e.target as HTMLSelectElement).value);
  props.sentence.askFocus();
}
</script>

<template>
  <label v-if="name" class="relative flex shrink-0 items-center text-sm text-ink2" data-layer>
    <LayerDot :name="name" :line-type="lineType" /><span aria-hidden="true" class="ml-1">⌄</span>
    <select
      class="absolute inset-0 opacity-0"
      :value="name"
      aria-label="Layer of this step"
      title="Layer of this step"
      @change="choose"
    >
      <option v-for="n in names" :key="n" :value="n">{{ n }}</option>
    </select>
  </label>
</template>
