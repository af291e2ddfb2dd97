<script setup lang="ts">
/** What is drawn between key and drawing: the measured dimension in red pencil beside the asked one, arrows back. */
import { computed } from "vue";
import { drawnMark, type SketchMark } from "../sketch";
import type { Point } from "../view";

const props = defineProps<{
  marks: readonly SketchMark[];
  toScreen: (p: Point) => Point;
  scale: number;
  middle: Point;
}>();
const drawn = computed(() => props.marks.map((m) => drawnMark(m, props.toScreen, props.scale, props.middle)));
</script>

<template>
  <g>
    <defs>
      <marker
        v-for="tone in ['asked', 'drawn']"
        :id="`head-${tone}`"
        :key="tone"
        viewBox="0 0 10 8"
        refX="9"
        refY="4"
        markerWidth="10"
        markerHeight="8"
        markerUnits="userSpaceOnUse"
        orient="auto"
      >
        <path d="M0 1l9 3-9 3z" :class="`fill-${tone}`" />
      </marker>
    </defs>
    <g v-for="(m, n) in drawn" :key="n" :class="['mark', m.tone]" :data-sketch="m.tone">
      <path v-if="m.thin" :d="m.thin" />
      <path v-for="d in m.headed" :key="d" :d="d" :marker-end="`url(#head-${m.tone})`" />
      <text v-if="m.says" :x="m.at[0]" :y="m.at[1]" :text-anchor="m.anchor">{{ m.says }}</text>
    </g>
  </g>
</template>

<style scoped>
.mark path {
  fill: none;
  stroke-width: 1.2;
}
.asked path {
  stroke: var(--color-drawn);
}
.drawn path {
  stroke: var(--color-pencil);
}
.fill-asked {
  fill: var(--color-drawn);
}
.fill-drawn {
  fill: var(--color-pencil);
}
text {
  font-size: 13px;
  font-weight: 600;
  paint-order: stroke;
  stroke: white;
  stroke-width: 5px;
}
.asked text {
  fill: var(--color-drawn-strong);
}
.drawn text {
  fill: var(--color-pencil);
}
</style>
