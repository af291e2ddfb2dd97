<script setup lang="ts">
/** The points of the grid, under all that is drawn. */
import { computed } from "vue";
import type { View } from "../../board/types";
import type { useView } from "../../view";

const props = defineProps<{ view: ReturnType<typeof useView>; shown: View | null; grid: number }>();
const gridLines = computed(() => {
  const step = props.grid * props.view.scale.value;
  if (!props.grid || step < 6) return null;
  const [ox, oy] = props.shown?.origin ?? [0, 0];
  const at = props.view.toScreen([-ox, oy]);
  return { step, x: at[0] % step, y: at[1] % step };
});
</script>

<template>
  <svg v-if="gridLines" class="absolute inset-0 h-full w-full" aria-hidden="true">
    <defs>
      <pattern
        id="board-grid"
        :x="gridLines.x"
        :y="gridLines.y"
        :width="gridLines.step"
        :height="gridLines.step"
        patternUnits="userSpaceOnUse"
      >
        <circle cx="0" cy="0" r="0.9" fill="var(--color-dot)" />
        <circle :cx="gridLines.step" cy="0" r="0.9" fill="var(--color-dot)" />
        <circle cx="0" :cy="gridLines.step" r="0.9" fill="var(--color-dot)" />
        <circle :cx="gridLines.step" :cy="gridLines.step" r="0.9" fill="var(--color-dot)" />
      </pattern>
    </defs>
    <rect width="100%" height="100%" fill="url(#board-grid)" />
  </svg>
</template>
