<script setup lang="ts">
/** A small picture of the key with what a check is about. */
import { computed } from "vue";
import type { Schemas } from "../api/client";

const props = defineProps<{ scene: Schemas["Scene"]; features: readonly string[] }>();
const WIDTH = 126;
const HEIGHT = 76;

const lit = computed(() => {
  const named = new Set(props.features);
  const outlines = props.scene.outlines.filter((o) => named.has(o.id)).flatMap((o) => o.members);
  return new Set([...named, ...outlines]);
});
const viewBox = computed(() => {
  const [left, top, right, bottom] = props.scene.box;
  const spare = Math.max(right - left, bottom - top) * 0.04 || 1;
  return `${left - spare} ${top - spare} ${right - left + 2 * spare} ${bottom - top + 2 * spare}`;
});
/** What one unit of the drawing is on the page. */
const scale = computed(() => {
  const [left, top, right, bottom] = props.scene.box;
  return Math.max((right - left) / WIDTH, (bottom - top) / HEIGHT) * 1.08 || 1;
});
const points = computed(() => [
  ...props.scene.joints.filter((j) => lit.value.has(j.id)).map((j) => j.at),
  ...props.scene.texts.filter((t) => t.id && lit.value.has(t.id)).map((t) => t.at),
]);
</script>

<template>
  <svg :viewBox="viewBox" :width="WIDTH" :height="HEIGHT" fill="none" aria-hidden="true" data-glimpse>
    <path v-for="f in scene.features" :key="f.id" :d="f.path" class="pale" />
    <template v-for="f in scene.features" :key="f.id">
      <path v-if="lit.has(f.id)" :d="f.path" class="lit" :data-lit="f.id" />
    </template>
    <circle
      v-for="(p, n) in points"
      :key="n"
      :cx="p[0]"
      :cy="p[1]"
      :r="5 * scale"
      class="lit"
      data-lit="point"
    />
  </svg>
</template>

<style scoped>
.pale,
.lit {
  vector-effect: non-scaling-stroke;
}
.pale {
  stroke: var(--color-pale);
  stroke-width: 1px;
}
.lit {
  stroke: var(--color-teal);
  stroke-width: 2.5px;
}
</style>
