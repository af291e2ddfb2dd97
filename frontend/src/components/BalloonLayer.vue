<script setup lang="ts">
/** Numbered balloons at findings, and the hooked links from a charged finding to those that follow it; in screen coordinates. */
import { computed } from "vue";
import type { Verdict } from "../api/client";
import type { Placed } from "../balloons";
import type { Point } from "../view";

const props = defineProps<{
  placed: readonly Placed[];
  verdicts: ReadonlyMap<number, Verdict>;
  chosen: number | null;
  /** Pairs of findings: the charged one, and one that follows it. */
  links?: readonly (readonly [number, number])[];
  /** Whether what they point at is a figure, which no dot should cover. */
  bare?: boolean;
}>();
const emit = defineEmits<{ balloon: [id: number] }>();

const ROOM = 14;
const chains = computed(() => {
  const by = new Map(props.placed.map((p) => [p.id, p.stand]));
  return (props.links ?? []).flatMap(([head, tail]) => {
    const a = by.get(head);
    const b = by.get(tail);
    if (!a || !b) return [];
    const far = Math.hypot(b[0] - a[0], b[1] - a[1]);
    if (far < 2 * ROOM + 4) return [];
    const [ux, uy] = [(b[0] - a[0]) / far, (b[1] - a[1]) / far];
    const start: Point = [a[0] + ux * ROOM, a[1] + uy * ROOM];
    const end: Point = [b[0] - ux * (ROOM + 2), b[1] - uy * (ROOM + 2)];
    const bend = Math.min(26, far / 5);
    const middle = [(start[0] + end[0]) / 2 - uy * bend, (start[1] + end[1]) / 2 + ux * bend];
    return [{ key: `${head}-${tail}`, d: `M${start.join(" ")}Q${middle.join(" ")} ${end.join(" ")}` }];
  });
});
/** Where its line begins: at what it points at, or just off a figure. */
function start(b: Placed): Point {
  const far = Math.hypot(b.stand[0] - b.at[0], b.stand[1] - b.at[1]);
  const off = props.bare && far > 0 ? Math.min(FIGURE / far, 1) : 0;
  return [b.at[0] + (b.stand[0] - b.at[0]) * off, b.at[1] + (b.stand[1] - b.at[1]) * off];
}
const FIGURE = 15;
</script>

<template>
  <g>
    <defs>
      <marker
        id="follows-head"
        viewBox="0 0 8 8"
        refX="6.5"
        refY="4"
        markerWidth="7"
        markerHeight="7"
        orient="auto"
      >
        <path d="M1 1l6 3-6 3" fill="none" stroke="var(--color-follows)" stroke-width="1.5" />
      </marker>
    </defs>
    <path
      v-for="c in chains"
      :key="c.key"
      :d="c.d"
      class="chain"
      marker-end="url(#follows-head)"
      data-chain
    />
    <g v-for="b in placed" :key="b.id" :class="['balloon', verdicts.get(b.id), b.id === chosen && 'picked']">
      <line :x1="start(b)[0]" :y1="start(b)[1]" :x2="b.stand[0]" :y2="b.stand[1]" />
      <circle v-if="!bare" :cx="b.at[0]" :cy="b.at[1]" r="2.5" class="dot" />
      <circle
        :cx="b.stand[0]"
        :cy="b.stand[1]"
        r="12.5"
        class="ring pointer-events-auto cursor-pointer"
        :data-balloon="b.id"
        @pointerdown.stop
        @click.stop="emit('balloon', b.id)"
      />
      <text :x="b.stand[0]" :y="b.stand[1] + 4.4" text-anchor="middle" :font-size="b.id > 99 ? 10.5 : 12.5">
        {{ b.id }}
      </text>
    </g>
  </g>
</template>

<style scoped>
.balloon {
  --tone: var(--color-pencil);
}
.balloon.near {
  --tone: var(--color-near);
}
.balloon.follows {
  --tone: var(--color-follows);
}
.balloon.met {
  --tone: var(--color-teal);
}
.balloon line {
  stroke: var(--tone);
  stroke-width: 1;
}
.balloon .dot,
.balloon text {
  fill: var(--tone);
}
.balloon .ring {
  fill: white;
  stroke: var(--tone);
  stroke-width: 1.5;
}
.balloon text {
  font-weight: 650;
}
.balloon.absent .ring {
  stroke-dasharray: 3 2.5;
}
.balloon.picked .ring {
  fill: var(--tone);
}
.balloon.picked text {
  fill: white;
}
.chain {
  fill: none;
  stroke: var(--color-follows);
  stroke-width: 1.3;
  stroke-dasharray: 5 3;
}
</style>
