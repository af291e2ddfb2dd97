<script setup lang="ts">
/**
 * A sheet with a key, a drawing, or both laid on each other: pan by dragging, zoom by wheel or keys, balloons at findings,
 * and a lens that enlarges what no eye sees at drawing scale.
 */
import { useElementSize, useEventListener } from "@vueuse/core";
import { computed, onMounted, ref, watch } from "vue";
import type { Schemas, Verdict } from "../api/client";
import { placeBalloons } from "../balloons";
import { useView, type Box, type Point } from "../view";
import SceneLines from "./SceneLines.vue";

export interface Balloon {
  id: number;
  at: Point;
  verdict: Verdict;
}
export interface Lens {
  at: Point;
  /** How many units the lens shows across. */
  across: number;
  says: string;
}

const props = withDefaults(
  defineProps<{
    label: string;
    keyScene?: Schemas["Scene"] | null;
    drawn?: Schemas["Scene"] | null;
    show?: "key" | "both" | "drawing";
    balloons?: Balloon[];
    chosenBalloon?: number | null;
    wrongKey?: ReadonlySet<string>;
    wrongDrawn?: ReadonlySet<string>;
    chosenKey?: ReadonlySet<string>;
    chosenDrawn?: ReadonlySet<string>;
    annotations?: boolean;
    pickable?: boolean;
    lens?: Lens | null;
  }>(),
  { show: "both", balloons: () => [], chosenBalloon: null },
);
const emit = defineEmits<{ balloon: [id: number]; pick: [id: string] }>();

const root = ref<HTMLElement | null>(null);
const { width, height } = useElementSize(root);

const base = computed(() => props.keyScene ?? props.drawn ?? null);
const origin = computed<Point>(() => base.value?.origin ?? [0, 0]);
const content = computed<Box>(() => {
  const boxes: Box[] = [];
  for (const scene of [props.keyScene, props.drawn]) {
    if (!scene) continue;
    const dx = scene.origin[0] - origin.value[0];
    const dy = origin.value[1] - scene.origin[1];
    boxes.push([scene.box[0] + dx, scene.box[1] + dy, scene.box[2], scene.box[3]]);
  }
  if (!boxes.length) return [0, 0, 100, 70];
  const left = Math.min(...boxes.map((b) => b[0]));
  const top = Math.min(...boxes.map((b) => b[1]));
  const right = Math.max(...boxes.map((b) => b[0] + b[2]));
  const bottom = Math.max(...boxes.map((b) => b[1] + b[3]));
  return [left, top, right - left, bottom - top];
});
const view = useView(width, height, content, 44);
onMounted(view.fit);
watch(base, (now, before) => {
  if (!before && now) view.fit();
});

const placed = computed(() => {
  const b = content.value;
  const middle = view.toScreen([b[0] + b[2] / 2, b[1] + b[3] / 2]);
  const spots = props.balloons
    .map((x) => ({ id: x.id, at: view.toScreen(x.at) }))
    .filter((s) => s.at[0] > -5 && s.at[1] > -5 && s.at[0] < width.value + 5 && s.at[1] < height.value + 5);
  return placeBalloons(spots, middle, width.value, height.value);
});
const verdictOf = computed(() => new Map(props.balloons.map((b) => [b.id, b.verdict])));

const LENS = 82;
const glass = computed(() => {
  if (!props.lens || width.value < 420) return null;
  const at = view.toScreen(props.lens.at);
  const right = at[0] < width.value / 2;
  const below = at[1] < height.value / 2;
  const middle: Point = [right ? width.value - LENS - 22 : LENS + 22, below ? height.value - LENS - 22 : LENS + 22];
  const across = props.lens.across;
  const times = (2 * LENS) / across / view.scale.value;
  const dx = middle[0] - at[0];
  const dy = middle[1] - at[1];
  const far = Math.hypot(dx, dy) || 1;
  return {
    at,
    middle,
    times: times >= 10 ? Math.round(times) : Math.round(times * 10) / 10,
    from: [at[0] + (dx / far) * 9, at[1] + (dy / far) * 9] as Point,
    to: [middle[0] - (dx / far) * LENS, middle[1] - (dy / far) * LENS] as Point,
    viewBox: `${props.lens.at[0] - across / 2} ${props.lens.at[1] - across / 2} ${across} ${across}`,
    says: props.lens.says,
  };
});

let held: { x: number; y: number } | null = null;
function press(e: PointerEvent): void {
  if (e.button !== 0) return;
  held = { x: e.clientX, y: e.clientY };
  (e.currentTarget as HTMLElement).setPointerCapture(e.pointerId);
}
function drag(e: PointerEvent): void {
  if (!held) return;
  view.panBy(e.clientX - held.x, e.clientY - held.y);
  held = { x: e.clientX, y: e.clientY };
}
function release(): void {
  held = null;
}
function wheel(e: WheelEvent): void {
  const box = root.value?.getBoundingClientRect();
  if (!box) return;
  e.preventDefault();
  view.zoomAt(e.clientX - box.left, e.clientY - box.top, Math.exp(-e.deltaY * 0.0016));
}
useEventListener(root, "wheel", wheel, { passive: false });

function zoomBy(factor: number): void {
  view.zoomAt(width.value / 2, height.value / 2, factor);
}
function key(e: KeyboardEvent): void {
  const step = 60;
  const moves: Record<string, () => void> = {
    "+": () => zoomBy(1.3),
    "=": () => zoomBy(1.3),
    "-": () => zoomBy(1 / 1.3),
    "0": view.fit,
    ArrowLeft: () => view.panBy(step, 0),
    ArrowRight: () => view.panBy(-step, 0),
    ArrowUp: () => view.panBy(0, step),
    ArrowDown: () => view.panBy(0, -step),
  };
  const move = moves[e.key];
  if (move && e.target === root.value) {
    move();
    e.preventDefault();
    e.stopPropagation();
  }
}
defineExpose({ fit: view.fit, lookAt: view.lookAt, zoomBy });
</script>

<template>
  <div
    ref="root"
    class="paper relative h-full w-full touch-none overflow-hidden select-none"
    tabindex="0"
    role="group"
    :aria-label="label"
    @keydown="key"
    @pointerdown="press"
    @pointermove="drag"
    @pointerup="release"
    @pointercancel="release"
  >
    <svg
      class="absolute inset-0 h-full w-full cursor-grab active:cursor-grabbing"
      :viewBox="view.viewBox.value"
      aria-hidden="true"
    >
      <SceneLines
        v-if="keyScene && show !== 'drawing'"
        :scene="keyScene"
        :origin="origin"
        :tone="drawn && show === 'both' ? 'key' : 'ink'"
        :wrong="wrongKey"
        :chosen="chosenKey"
        :annotations="annotations"
        :pickable="pickable"
        @pick="(id) => emit('pick', id)"
      />
      <SceneLines
        v-if="drawn && show !== 'key'"
        :scene="drawn"
        :origin="origin"
        annotations
        tone="ink"
        :wrong="wrongDrawn"
        :chosen="chosenDrawn"
      />
    </svg>
    <svg class="pointer-events-none absolute inset-0 h-full w-full">
      <g v-for="b in placed" :key="b.id" :class="['balloon', verdictOf.get(b.id), b.id === chosenBalloon && 'picked']">
        <line :x1="b.at[0]" :y1="b.at[1]" :x2="b.stand[0]" :y2="b.stand[1]" />
        <circle :cx="b.at[0]" :cy="b.at[1]" r="2.5" class="dot" />
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
      <g v-if="glass" class="lens" data-lens>
        <circle :cx="glass.at[0]" :cy="glass.at[1]" r="9" />
        <line :x1="glass.from[0]" :y1="glass.from[1]" :x2="glass.to[0]" :y2="glass.to[1]" />
        <circle :cx="glass.middle[0]" :cy="glass.middle[1]" :r="LENS" fill="white" />
        <clipPath id="lens-glass"><circle :cx="glass.middle[0]" :cy="glass.middle[1]" :r="LENS - 1" /></clipPath>
        <g clip-path="url(#lens-glass)">
          <svg
            :x="glass.middle[0] - LENS"
            :y="glass.middle[1] - LENS"
            :width="2 * LENS"
            :height="2 * LENS"
            :viewBox="glass.viewBox"
          >
            <SceneLines
              v-if="keyScene && show !== 'drawing'"
              :scene="keyScene"
              :origin="origin"
              tone="key"
              :wrong="wrongKey"
            />
            <SceneLines v-if="drawn && show !== 'key'" :scene="drawn" :origin="origin" tone="ink" :wrong="wrongDrawn" />
          </svg>
        </g>
        <g class="words">
          <text :x="glass.middle[0]" :y="glass.middle[1] - LENS + 26" text-anchor="middle" class="says">
            {{ glass.says }}
          </text>
          <text :x="glass.middle[0]" :y="glass.middle[1] + LENS - 15" text-anchor="middle" class="times">
            {{ glass.times }} times
          </text>
        </g>
      </g>
    </svg>
    <button
      v-if="view.outOfSight.value !== null"
      class="press absolute top-1/2 left-1/2 -translate-x-1/2 -translate-y-1/2"
      @click="view.fit"
    >
      <span aria-hidden="true" :style="{ transform: `rotate(${view.outOfSight.value}deg)` }">→</span> Back to the
      drawing
    </button>
  </div>
</template>

<style scoped>
.balloon line {
  stroke: var(--color-pencil);
  stroke-width: 1;
}
.balloon .dot {
  fill: var(--color-pencil);
}
.balloon .ring {
  fill: white;
  stroke: var(--color-pencil);
  stroke-width: 1.5;
}
.balloon text {
  fill: var(--color-pencil);
  font-weight: 650;
}
.balloon.near line,
.balloon.near .ring {
  stroke: var(--color-near);
}
.balloon.near .dot,
.balloon.near text {
  fill: var(--color-near);
}
.balloon.follows line,
.balloon.follows .ring {
  stroke: var(--color-follows);
}
.balloon.follows .dot,
.balloon.follows text {
  fill: var(--color-follows);
}
.balloon.met line,
.balloon.met .ring {
  stroke: var(--color-teal);
}
.balloon.met .dot,
.balloon.met text {
  fill: var(--color-teal);
}
.balloon.absent .ring {
  stroke-dasharray: 3 2.5;
}
.balloon.picked .ring {
  fill: var(--color-pencil);
}
.balloon.picked.near .ring {
  fill: var(--color-near);
}
.balloon.picked.follows .ring {
  fill: var(--color-follows);
}
.balloon.picked.met .ring {
  fill: var(--color-teal);
}
.balloon.picked text {
  fill: white;
}
.lens > circle,
.lens > line {
  stroke: var(--color-teal);
  stroke-width: 1.4;
}
.lens > circle:first-child {
  fill: none;
}
.lens .says {
  fill: var(--color-pencil);
  font-size: 13px;
  font-weight: 650;
  paint-order: stroke;
  stroke: white;
  stroke-width: 4px;
}
.lens .times {
  fill: var(--color-teal);
  font-size: 12px;
  paint-order: stroke;
  stroke: white;
  stroke-width: 4px;
}
</style>
