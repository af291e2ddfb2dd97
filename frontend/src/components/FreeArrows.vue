<script setup lang="ts">
/** How something is free, in red pencil: an arrow to both sides at each place that may move; in screen coordinates. */
import { computed } from "vue";
import type { Arrow } from "../proof";
import type { Point } from "../view";

const props = defineProps<{ arrows: readonly Arrow[]; toScreen: (p: Point) => Point }>();
const REACH = 30;
const LEAST = 14;

const drawn = computed(() =>
  props.arrows.map((a, n) => {
    const [x, y] = props.toScreen(a.at);
    const far = Math.hypot(...a.by);
    const by = far > 0 ? Math.max(LEAST, REACH * far) / far : 0;
    return { n, x, y, d: `M${x - a.by[0] * by} ${y - a.by[1] * by}L${x + a.by[0] * by} ${y + a.by[1] * by}` };
  }),
);
</script>

<template>
  <g fill="none" stroke="var(--color-pencil)" stroke-width="2" data-arrows>
    <defs>
      <marker
        id="free-head"
        viewBox="0 0 8 8"
        refX="6"
        refY="4"
        markerWidth="6"
        markerHeight="6"
        orient="auto-start-reverse"
      >
        <path d="M1 1l5.5 3L1 7" fill="none" stroke="var(--color-pencil)" stroke-width="1.4" />
      </marker>
    </defs>
    <g v-for="a in drawn" :key="a.n">
      <path :d="a.d" marker-start="url(#free-head)" marker-end="url(#free-head)" />
      <circle :cx="a.x" :cy="a.y" r="2.6" fill="var(--color-pencil)" stroke="none" />
    </g>
  </g>
</template>
