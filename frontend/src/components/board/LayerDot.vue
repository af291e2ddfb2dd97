<script setup lang="ts">
/** A layer by its name, with a dot in the colour in which what stands on it is drawn. */
import { computed } from "vue";
import { inkOf } from "../../board/paint";

const props = defineProps<{ name: string; lineType?: string }>();
const ink = computed(() => `var(--color-${inkOf(props.name, props.lineType ?? "continuous")})`);
</script>

<template>
  <span class="layer">
    <span
      class="dot"
      :class="lineType === 'dashed' && 'open'"
      :style="{ '--ink': ink }"
      aria-hidden="true"
    />{{ name }}
  </span>
</template>

<style scoped>
.layer {
  display: inline-flex;
  min-width: 0;
  align-items: center;
  gap: 0.35rem;
}
.dot {
  width: 0.55rem;
  height: 0.55rem;
  flex-shrink: 0;
  border: 2px solid var(--ink);
  border-radius: 999px;
  background: var(--ink);
}
.dot.open {
  background: transparent;
}
</style>
