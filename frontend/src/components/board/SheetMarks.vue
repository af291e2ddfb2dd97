<script setup lang="ts">
/** What lies over the drawing on the board: rulers, origin, the points said so far, what is caught, all that is in reach. */
import { computed } from "vue";
import { ticks } from "../../board/rulers";
import type { Pointed, View } from "../../board/types";
import type { Point, useView } from "../../view";

const props = defineProps<{
  view: ReturnType<typeof useView>;
  width: number;
  height: number;
  shown: View | null;
  points: readonly Point[];
  pulled: readonly { at: Point }[];
  pointed: Pointed | null;
  tip: Point | null;
  window: readonly [Point, Point] | null;
  frameSays: string;
  /** Where to press next, in a drawing that is followed. */
  mark?: Point;
}>();
const rulers = computed(() =>
  ticks(props.view, props.width, props.height, props.shown?.origin ?? [0, 0], props.shown?.unit ?? "mm"),
);
const origin = computed(() => {
  const [ox, oy] = props.shown?.origin ?? [0, 0];
  return props.view.toScreen([-ox, oy]);
});

const caught = computed(() => {
  const found = props.pointed;
  const chosen = found?.choices[found.which];
  return chosen?.at ? { at: props.view.toScreen(chosen.at), says: chosen.says, kind: chosen.kind } : null;
});
const list = computed(() => {
  const found = props.pointed;
  const at = caught.value?.at ?? props.tip;
  if (!found || !at || found.choices.length < 2) return null;
  return { at, choices: found.choices.slice(0, 6), which: found.which };
});
</script>

<template>
  <svg class="pointer-events-none absolute inset-0 h-full w-full" aria-hidden="true">
    <g class="ruler">
      <g v-for="t in rulers.across" :key="`x${t.says}`">
        <line :x1="t.at" :x2="t.at" :y1="height - (t.long ? 9 : 6)" :y2="height" />
        <text v-if="t.long" :x="t.at" :y="height - 13" text-anchor="middle">{{ t.says }}</text>
      </g>
      <g v-for="t in rulers.up" :key="`y${t.says}`">
        <line x1="0" :x2="t.long ? 9 : 6" :y1="t.at" :y2="t.at" />
        <text v-if="t.long" x="12" :y="t.at + 3.5">{{ t.says }}</text>
      </g>
    </g>
    <g :transform="`translate(${origin[0]} ${origin[1]})`" class="origin">
      <path d="M5 0H28M0 -5V-28" />
      <circle r="4" fill="white" />
      <text x="31" y="3.5">x</text>
      <text x="-3" y="-31">y</text>
    </g>
    <circle
      v-for="(p, n) in points"
      :key="n"
      :cx="view.toScreen(p)[0]"
      :cy="view.toScreen(p)[1]"
      r="3"
      class="said"
    />
    <rect
      v-for="(p, n) in pulled"
      :key="`pulled ${n}`"
      :x="view.toScreen(p.at)[0] - 6"
      :y="view.toScreen(p.at)[1] - 6"
      width="12"
      height="12"
      rx="6"
      class="pulled"
    />
    <g
      v-if="mark"
      :transform="`translate(${view.toScreen(mark)[0]} ${view.toScreen(mark)[1]})`"
      class="mark"
      data-follow-mark
    >
      <circle r="15" />
      <circle r="2.5" class="dot" />
      <path d="M24 -24L13 -13M13 -13V-21M13 -13H21" />
    </g>
    <g v-if="caught" :transform="`translate(${caught.at[0]} ${caught.at[1]})`" class="caught" data-caught>
      <path d="M-4 8L0 -8M2 8L6 -8" />
    </g>
    <rect
      v-if="window"
      :x="Math.min(window[0][0], window[1][0])"
      :y="Math.min(window[0][1], window[1][1])"
      :width="Math.abs(window[0][0] - window[1][0])"
      :height="Math.abs(window[0][1] - window[1][1])"
      class="window"
    />
  </svg>
  <p
    v-if="pointed?.live && caught"
    class="live pointer-events-none absolute"
    :style="{ left: `${caught.at[0] + 16}px`, top: `${caught.at[1] - 38}px` }"
    data-live
  >
    {{ pointed.live }}
  </p>
  <p
    v-if="window && frameSays"
    class="live pointer-events-none absolute"
    :style="{ left: `${Math.min(window[1][0] + 14, width - 330)}px`, top: `${window[1][1] + 14}px` }"
    data-frame
  >
    {{ frameSays }} <kbd v-if="!frameSays.startsWith('zooms')" class="keycap ml-1">Tab</kbd>
  </p>
  <ul
    v-if="list"
    class="reach pointer-events-none absolute"
    :style="{
      left: `${Math.min(list.at[0] + 18, width - 220)}px`,
      top: `${Math.min(list.at[1] + 16, height - list.choices.length * 26 - 12)}px`,
    }"
    data-reach
  >
    <li v-for="(c, n) in list.choices" :key="c.says + c.kind" :class="n === list.which && 'meant'">
      {{ c.says }}
    </li>
  </ul>
</template>

<style scoped>
.ruler line {
  stroke: var(--color-edge);
}
.ruler text {
  fill: var(--color-ink2);
  font-size: 11px;
}
.origin path {
  stroke: var(--color-teal);
  stroke-width: 1.6;
}
.origin circle {
  stroke: var(--color-teal);
  stroke-width: 1.6;
}
.origin text {
  fill: var(--color-teal);
  font-size: 11px;
}
.said {
  fill: white;
  stroke: var(--color-teal);
  stroke-width: 1.5;
}
.pulled {
  fill: var(--color-teal-soft);
  stroke: var(--color-teal);
  stroke-width: 2;
}
.caught path {
  stroke: var(--color-teal);
  stroke-width: 2.6;
  stroke-linecap: round;
}
.window {
  fill: color-mix(in srgb, var(--color-teal) 7%, transparent);
  stroke: var(--color-teal);
  stroke-dasharray: 5 4;
}
.live {
  border: 1px solid var(--color-teal);
  border-radius: 999px;
  background: white;
  padding: 0.1rem 0.7rem;
  color: var(--color-teal);
  font-weight: 600;
  white-space: nowrap;
}
.reach {
  min-width: 11rem;
  border: 1px solid var(--color-rule);
  border-radius: 0.5rem;
  background: white;
  padding: 0.3rem;
  font-size: 0.9rem;
  box-shadow: 0 3px 10px color-mix(in srgb, var(--color-ink) 12%, transparent);
}
.reach li {
  padding: 0.1rem 0.5rem;
  border-radius: 0.3rem;
}
.reach .meant {
  background: var(--color-teal-soft);
  font-weight: 600;
}
.mark circle,
.mark path {
  fill: none;
  stroke: var(--color-pencil);
  stroke-width: 2.2;
}
.mark .dot {
  fill: var(--color-pencil);
  stroke: none;
}
</style>
