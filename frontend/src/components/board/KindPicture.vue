<script setup lang="ts">
/** The small picture of a kind of step: what stands in pale lines, what the step does in strong ones. */
import { computed } from "vue";
import type { Kind } from "../../board/types";

const props = defineProps<{ kind: Kind; side: number }>();
const span = computed(() => Math.max(props.kind.picture.box[2], props.kind.picture.box[3], 1));
const box = computed(() => {
  const [x, y, w, h] = props.kind.picture.box;
  const room = span.value * 0.16;
  return `${x - (span.value - w) / 2 - room} ${y - (span.value - h) / 2 - room} ${span.value + 2 * room} ${span.value + 2 * room}`;
});
</script>

<template>
  <svg :viewBox="box" :width="side" :height="side" aria-hidden="true" fill="none">
    <path :d="kind.picture.pale" class="pale" />
    <path :d="kind.picture.strong" class="strong" />
    <text
      v-for="(t, n) in kind.picture.texts"
      :key="n"
      :x="t.at[0]"
      :y="t.at[1]"
      :font-size="Math.max(t.height, span * 0.3)"
      text-anchor="middle"
    >
      {{ t.wording }}
    </text>
  </svg>
</template>

<style scoped>
path {
  vector-effect: non-scaling-stroke;
}
.pale {
  stroke: var(--color-pale);
  stroke-width: 1.1;
}
.strong {
  stroke: var(--color-teal);
  stroke-width: 1.7;
}
text {
  fill: var(--color-teal);
}
</style>
