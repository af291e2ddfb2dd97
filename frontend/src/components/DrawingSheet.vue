<script setup lang="ts">
/**
 * A sheet with a key, a drawing, or both laid on each other: pan by dragging, zoom by wheel or keys, balloons at findings,
 * and a lens that enlarges what no eye sees at drawing scale.
 */
import { useElementSize, useEventListener } from "@vueuse/core";
import { computed, onMounted, ref, watch } from "vue";
import type { Schemas, Verdict } from "../api/client";
import { placeBalloons } from "../balloons";
import type { Lens } from "../lens";
import type { SketchMark } from "../sketch";
import { useView, type Box, type Point } from "../view";
import BalloonLayer from "./BalloonLayer.vue";
import CommentPins, { type Pin } from "./CommentPins.vue";
import LensGlass from "./LensGlass.vue";
import SceneLines from "./SceneLines.vue";
import SketchMarks from "./SketchMarks.vue";

export interface Balloon {
  id: number;
  at: Point;
  verdict: Verdict;
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
    sketch?: readonly SketchMark[];
    pins?: readonly Pin[];
    chosenPin?: number | null;
    links?: readonly (readonly [number, number])[];
    /** The next press on the sheet names a place. */
    placing?: boolean;
  }>(),
  { show: "both", balloons: () => [], chosenBalloon: null, sketch: () => [], pins: () => [], links: () => [] },
);
const emit = defineEmits<{ balloon: [id: number]; pick: [id: string]; pin: [number: number]; place: [at: Point] }>();

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

const middle = computed<Point>(() => {
  const b = content.value;
  return view.toScreen([b[0] + b[2] / 2, b[1] + b[3] / 2]);
});
const placed = computed(() => {
  const spots = props.balloons
    .map((x) => ({ id: x.id, at: view.toScreen(x.at) }))
    .filter((s) => s.at[0] > -5 && s.at[1] > -5 && s.at[0] < width.value + 5 && s.at[1] < height.value + 5);
  return placeBalloons(spots, middle.value, width.value, height.value);
});
const verdictOf = computed(() => new Map(props.balloons.map((b) => [b.id, b.verdict])));

let held: { x: number; y: number; moved: number } | null = null;
function press(e: PointerEvent): void {
  if (e.button !== 0) return;
  held = { x: e.clientX, y: e.clientY, moved: 0 };
  (e.currentTarget as HTMLElement).setPointerCapture(e.pointerId);
}
function drag(e: PointerEvent): void {
  if (!held) return;
  const [dx, dy] = [e.clientX - held.x, e.clientY - held.y];
  view.panBy(dx, dy);
  held = { x: e.clientX, y: e.clientY, moved: held.moved + Math.abs(dx) + Math.abs(dy) };
}
function release(e: PointerEvent): void {
  const box = root.value?.getBoundingClientRect();
  if (props.placing && held && held.moved < 5 && box) {
    emit("place", view.fromScreen(e.clientX - box.left, e.clientY - box.top));
  }
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
    @pointercancel="held = null"
  >
    <svg
      class="absolute inset-0 h-full w-full"
      :class="placing ? 'cursor-crosshair' : 'cursor-grab active:cursor-grabbing'"
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
      <SketchMarks :marks="sketch" :to-screen="view.toScreen" :scale="view.scale.value" :middle="middle" />
      <BalloonLayer
        :placed="placed"
        :verdicts="verdictOf"
        :chosen="chosenBalloon"
        :links="links"
        @balloon="(n) => emit('balloon', n)"
      />
      <CommentPins :pins="pins" :to-screen="view.toScreen" :chosen="chosenPin" @pin="(n) => emit('pin', n)" />
      <LensGlass
        v-if="lens && width >= 420"
        :lens="lens"
        :width="width"
        :height="height"
        :scale="view.scale.value"
        :to-screen="view.toScreen"
        :origin="origin"
        :key-scene="show !== 'drawing' ? keyScene : null"
        :drawn="show !== 'key' ? drawn : null"
        :wrong-key="wrongKey"
        :wrong-drawn="wrongDrawn"
      />
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
