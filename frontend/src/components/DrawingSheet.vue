<script setup lang="ts">
/**
 * A sheet with a key, a drawing, or both laid on each other: pan by dragging, zoom by wheel or keys, balloons at findings,
 * and a lens that enlarges what no eye sees at drawing scale.
 */
import { useElementSize, useEventListener } from "@vueuse/core";
import { computed, onMounted, ref, watch } from "vue";
import type { Schemas, Verdict } from "../api/client";
import { placeBalloons } from "../balloons";
import type { Arrow } from "../proof";
import type { Lens } from "../lens";
import type { SketchMark } from "../sketch";
import { useHands } from "../useHands";
import { ARROWS, useView, type Box, type Point } from "../view";
import BalloonLayer from "./BalloonLayer.vue";
import FreeArrows from "./FreeArrows.vue";
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
    /** How something on the key is free. */
    arrows?: readonly Arrow[];
    /** Whether the balloons belong to figures. */
    figures?: boolean;
    /** Joints that can be picked. */
    joints?: readonly { id: string; at: Point }[];
    /** The next press on the sheet names a place. */
    placing?: boolean;
  }>(),
  {
    show: "both",
    balloons: () => [],
    chosenBalloon: null,
    sketch: () => [],
    pins: () => [],
    links: () => [],
    arrows: () => [],
    joints: () => [],
  },
);
const emit = defineEmits<{
  balloon: [id: number];
  pick: [id: string];
  pin: [number: number];
  place: [at: Point];
}>();

const root = ref<HTMLElement | null>(null);
const { width, height } = useElementSize(root);

const base = computed(() => props.keyScene ?? props.drawn ?? null);
const content = computed<Box>(() => {
  const boxes = [props.keyScene, props.drawn].filter((scene) => !!scene).map((scene) => scene.box);
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

const hands = useHands(root, view, (x, y) => {
  if (props.placing) emit("place", view.fromScreen(x, y));
});
/** Where a place is named by keys: the cross starts in the middle and is moved by arrows. */
const cross = ref<Point | null>(null);
watch(
  () => props.placing,
  (placing) => {
    cross.value = placing ? [width.value / 2, height.value / 2] : null;
    // a dialog that has just closed gives the focus back first
    if (placing) setTimeout(() => root.value?.focus(), 60);
  },
);
function wheel(e: WheelEvent): void {
  const box = root.value?.getBoundingClientRect();
  if (!box) return;
  e.preventDefault();
  view.wheelAt(e.clientX - box.left, e.clientY - box.top, e.deltaY);
}
useEventListener(root, "wheel", wheel, { passive: false });

/** Moves the cross; with shift a pixel at a time. Enter names the place. */
function aim(e: KeyboardEvent): boolean {
  const here = cross.value;
  if (!here || e.target !== root.value) return false;
  const way = ARROWS[e.key];
  const far = e.shiftKey ? 1 : 12;
  if (way) {
    cross.value = [
      Math.min(Math.max(here[0] + way[0] * far, 0), width.value),
      Math.min(Math.max(here[1] + way[1] * far, 0), height.value),
    ];
  } else if (e.key === "Enter") emit("place", view.fromScreen(...here));
  else return false;
  return true;
}
function key(e: KeyboardEvent): void {
  if (aim(e)) {
    e.preventDefault();
    e.stopPropagation();
    return;
  }
  const step = 60;
  const moves: Record<string, () => void> = {
    "+": () => view.zoomBy(1.3),
    "=": () => view.zoomBy(1.3),
    "-": () => view.zoomBy(1 / 1.3),
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
defineExpose({ fit: view.fit, lookAt: view.lookAt });
</script>

<template>
  <div
    ref="root"
    class="paper relative h-full w-full touch-none overflow-hidden select-none"
    tabindex="0"
    role="group"
    :aria-label="label"
    @keydown="key"
    @pointerdown="hands.press"
    @pointermove="hands.drag"
    @pointerup="hands.release"
    @pointercancel="hands.letGo"
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
        annotations
        tone="ink"
        :wrong="wrongDrawn"
        :chosen="chosenDrawn"
      />
    </svg>
    <svg class="pointer-events-none absolute inset-0 h-full w-full">
      <SketchMarks :marks="sketch" :to-screen="view.toScreen" :scale="view.scale.value" :middle="middle" />
      <FreeArrows v-if="arrows.length" :arrows="arrows" :to-screen="view.toScreen" />
      <circle
        v-for="j in joints"
        :key="j.id"
        :cx="view.toScreen(j.at)[0]"
        :cy="view.toScreen(j.at)[1]"
        r="6"
        fill="white"
        :stroke="chosenKey?.has(j.id) ? 'var(--color-teal)' : 'var(--color-ink2)'"
        :stroke-width="chosenKey?.has(j.id) ? 3 : 1.5"
        class="pointer-events-auto cursor-pointer"
        :data-joint="j.id"
        @pointerdown.stop
        @click.stop="emit('pick', j.id)"
      />
      <BalloonLayer
        :placed="placed"
        :verdicts="verdictOf"
        :chosen="chosenBalloon"
        :links="links"
        :bare="figures"
        @balloon="(n) => emit('balloon', n)"
      />
      <CommentPins :pins="pins" :to-screen="view.toScreen" :chosen="chosenPin" @pin="(n) => emit('pin', n)" />
      <LensGlass
        v-if="lens"
        :lens="lens"
        :width="width"
        :height="height"
        :scale="view.scale.value"
        :to-screen="view.toScreen"
        :key-scene="show !== 'drawing' ? keyScene : null"
        :drawn="show !== 'key' ? drawn : null"
        :wrong-key="wrongKey"
        :wrong-drawn="wrongDrawn"
      />
    </svg>
    <svg
      v-if="cross"
      class="pointer-events-none absolute inset-0 h-full w-full"
      aria-hidden="true"
      data-cross
    >
      <path
        :d="`M${cross[0] - 16} ${cross[1]}h32M${cross[0]} ${cross[1] - 16}v32`"
        stroke="var(--color-teal)"
        stroke-width="1.6"
      />
    </svg>
    <div class="screen-only absolute right-2 bottom-2 flex flex-col gap-1">
      <button
        type="button"
        class="zoom"
        aria-label="Enlarge the drawing"
        @pointerdown.stop
        @click="view.zoomBy(1.5)"
      >
        +
      </button>
      <button
        type="button"
        class="zoom"
        aria-label="Make the drawing smaller"
        @pointerdown.stop
        @click="view.zoomBy(1 / 1.5)"
      >
        −
      </button>
    </div>
    <button
      v-if="view.outOfSight.value !== null"
      class="press absolute top-1/2 left-1/2 -translate-x-1/2 -translate-y-1/2"
      @click="view.fit"
    >
      <span aria-hidden="true" :style="{ transform: `rotate(${view.outOfSight.value}deg)` }">→</span> Back to
      the drawing
    </button>
  </div>
</template>

<style scoped>
.zoom {
  width: 2rem;
  height: 2rem;
  border: 1px solid var(--color-edge-soft);
  border-radius: 0.4rem;
  background: var(--color-bar);
  color: var(--color-teal);
  font-size: 1.15rem;
  font-weight: 600;
  line-height: 1;
}
@media (pointer: coarse) {
  .zoom {
    width: 2.75rem;
    height: 2.75rem;
  }
}
</style>
