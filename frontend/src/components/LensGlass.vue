<script setup lang="ts">
/** A round glass that enlarges one place of the sheet until what is off there can be seen. */
import { computed } from "vue";
import type { Schemas } from "../api/client";
import type { Lens } from "../lens";
import type { Point } from "../view";
import SceneLines from "./SceneLines.vue";

const props = defineProps<{
  lens: Lens;
  width: number;
  height: number;
  /** Pixels a unit on the sheet below. */
  scale: number;
  toScreen: (p: Point) => Point;
  keyScene?: Schemas["Scene"] | null;
  drawn?: Schemas["Scene"] | null;
  wrongKey?: ReadonlySet<string>;
  wrongDrawn?: ReadonlySet<string>;
}>();

/** The glass is never wider than a third of the sheet. */
const r = computed(() => Math.max(44, Math.min(82, Math.min(props.width, props.height) / 6)));
/** A glass that enlarges less than this only hides the drawing. */
const LEAST = 2;
const glass = computed(() => {
  const at = props.toScreen(props.lens.at);
  const right = at[0] < props.width / 2;
  const below = at[1] < props.height / 2;
  const middle: Point = [
    right ? props.width - r.value - 22 : r.value + 22,
    below ? props.height - r.value - 22 : r.value + 22,
  ];
  const across = props.lens.across;
  const times = (2 * r.value) / across / props.scale;
  const dx = middle[0] - at[0];
  const dy = middle[1] - at[1];
  const far = Math.hypot(dx, dy) || 1;
  return {
    at,
    middle,
    times: times >= 10 ? Math.round(times) : Math.round(times * 10) / 10,
    from: [at[0] + (dx / far) * 9, at[1] + (dy / far) * 9] as Point,
    to: [middle[0] - (dx / far) * r.value, middle[1] - (dy / far) * r.value] as Point,
    viewBox: `${props.lens.at[0] - across / 2} ${props.lens.at[1] - across / 2} ${across} ${across}`,
  };
});
</script>

<template>
  <g v-if="glass.times >= LEAST" class="lens" data-lens>
    <circle :cx="glass.at[0]" :cy="glass.at[1]" r="9" class="spot" />
    <line :x1="glass.from[0]" :y1="glass.from[1]" :x2="glass.to[0]" :y2="glass.to[1]" />
    <circle :cx="glass.middle[0]" :cy="glass.middle[1]" :r="r" fill="white" />
    <clipPath id="lens-glass"><circle :cx="glass.middle[0]" :cy="glass.middle[1]" :r="r - 1" /></clipPath>
    <g clip-path="url(#lens-glass)">
      <svg
        :x="glass.middle[0] - r"
        :y="glass.middle[1] - r"
        :width="2 * r"
        :height="2 * r"
        :viewBox="glass.viewBox"
      >
        <SceneLines v-if="keyScene" :scene="keyScene" tone="key" :wrong="wrongKey" />
        <SceneLines v-if="drawn" :scene="drawn" tone="ink" :wrong="wrongDrawn" />
      </svg>
    </g>
    <text :x="glass.middle[0]" :y="glass.middle[1] - r + 26" text-anchor="middle" class="says">{{
      lens.says
    }}</text>
    <text :x="glass.middle[0]" :y="glass.middle[1] + r - 15" text-anchor="middle" class="times">
      {{ glass.times }} times
    </text>
  </g>
</template>

<style scoped>
.lens > circle,
.lens > line {
  stroke: var(--color-teal);
  stroke-width: 1.4;
}
.lens > .spot {
  fill: none;
}
text {
  paint-order: stroke;
  stroke: white;
  stroke-width: 4px;
}
.says {
  fill: var(--color-pencil);
  font-size: 13px;
  font-weight: 650;
}
.times {
  fill: var(--color-teal);
  font-size: 12px;
}
</style>
