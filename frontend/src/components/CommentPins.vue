<script setup lang="ts">
/** Comments pinned to places of a drawing: lettered flags, so that they are not taken for findings. */
import { letterOf } from "../numbers";
import type { Point } from "../view";

export interface Pin {
  number: number;
  at: Point;
  text: string;
}
defineProps<{ pins: readonly Pin[]; toScreen: (p: Point) => Point; chosen?: number | null }>();
const emit = defineEmits<{ pin: [number: number] }>();
</script>

<template>
  <g
    v-for="p in pins"
    :key="p.number"
    class="pointer-events-auto cursor-pointer"
    :data-pin="p.number"
    :transform="`translate(${toScreen(p.at).join(' ')})`"
    @pointerdown.stop
    @click.stop="emit('pin', p.number)"
  >
    <title>{{ p.text }}</title>
    <path d="M0 0V-24" class="staff" />
    <path d="M0 -24h19l-4 7 4 7h-19z" :class="p.number === chosen ? 'flag picked' : 'flag'" />
    <text x="7.5" y="-13" text-anchor="middle">{{ letterOf(p.number) }}</text>
    <circle r="2.2" class="foot" />
  </g>
</template>

<style scoped>
.staff {
  stroke: var(--color-teal);
  stroke-width: 1.4;
}
.flag {
  fill: var(--color-teal);
}
.flag.picked {
  fill: var(--color-ink);
}
.foot {
  fill: var(--color-teal);
}
text {
  fill: white;
  font-size: 11.5px;
  font-weight: 700;
}
</style>
