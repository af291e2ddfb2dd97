<script setup lang="ts">
/**
 * The sheet that is drawn on: rulers, grid, origin, what is drawn, what the sentence would draw, and the sign at what is caught.
 */
import { useElementSize, useEventListener } from "@vueuse/core";
import { computed, onMounted, ref, watch } from "vue";
import { letteredAt } from "../../board/lettered";
import { useFrame, type Framing } from "../../board/useFrame";
import { begin, paint, paintPicture, type Look, type Tone } from "../../board/paint";
import type { Piece, Pointed, View, Writing } from "../../board/types";
import type { Pulled } from "../../board/usePull";
import type { Lies } from "../../board/useUnderlay";
import type { Trial } from "../../board/useTrial";
import type { Pointer } from "../../board/useSentence";
import { ARROWS, useView, type Box, type Point } from "../../view";
import SheetGrid from "./SheetGrid.vue";
import SheetMarks from "./SheetMarks.vue";
import { colour } from "../../theme";

const props = defineProps<{
  pieces: ReadonlyMap<string, Piece>;
  shown: View | null;
  chosen: ReadonlySet<string>;
  /** What is lit without being chosen. */
  lit?: ReadonlySet<string>;
  /** Steps that stand behind the place where is written: drawn faintly. */
  later: ReadonlySet<number>;
  hidden: ReadonlySet<string>;
  writing: Writing | null;
  pointed: Pointed | null;
  /** What a correction or a pull would make of the drawing. */
  trial?: Trial | null;
  grid: number;
  /** Whether a press names a place of the sentence; else it chooses what is drawn. */
  drawing: boolean;
  /** What a frame is for that is dragged next; else the sheet is moved. */
  framing?: Framing;
  /** Places of what is chosen that can be pulled. */
  pulled?: readonly Pulled[];
  /** A picture that lies under the drawing, and the places of it that were pressed. */
  underlay?: (Lies & { image: HTMLImageElement }) | null;
  places?: readonly Point[];
  /** Where to press next, in a drawing that is followed. */
  mark?: Point;
}>();
const emit = defineEmits<{
  move: [p: Pointer | null];
  press: [p: Pointer, more: boolean];
  window: [from: Point, to: Point, more: boolean, touches: boolean];
  /** A frame is done, or let go. */
  framed: [];
  pull: [one: Pulled];
  grab: [name: string, p: Pointer];
  pulling: [p: Pointer];
  letGo: [p: Pointer | null];
}>();

const REACH = 11;
const root = ref<HTMLElement | null>(null);
const canvas = ref<HTMLCanvasElement | null>(null);
const { width, height } = useElementSize(root);
const content = computed<Box>(() => {
  const box = props.shown?.box;
  return !box || props.shown?.empty ? [-20, -80, 140, 100] : box;
});
const view = useView(width, height, content, 70, true);
onMounted(view.fit);

/** What is drawn, with what helps to draw it under the outlines. */
const drawn = computed(() => {
  const all = [...props.pieces.values()].filter((p) => !props.hidden.has(p.layer));
  const help = (p: Piece) => p.kind === "guide" || p.layer === "construction";
  return [...all.filter(help), ...all.filter((p) => !help(p))];
});
const ghost = computed(() => {
  if (props.trial) return props.trial;
  const preview = props.pointed?.preview?.whole ? props.pointed.preview : props.writing?.preview;
  return preview?.whole && !preview.broken ? preview : null;
});
/** What the other answers of a construction would draw, pale. */
const others = computed(() =>
  props.pointed?.preview?.whole
    ? (props.pointed.others ?? [])
    : (props.writing?.answers ?? []).flatMap((a) => a.paths ?? []),
);
const points = computed(() => (props.places?.length ? props.places : saidPoints.value));
const saidPoints = computed(() => props.pointed?.points ?? props.writing?.points ?? []);

let nextDraw = 0;
function redraw(): void {
  cancelAnimationFrame(nextDraw);
  nextDraw = requestAnimationFrame(draw);
}
function draw(): void {
  if (!canvas.value || width.value < 1) return;
  const look: Look = {
    center: view.center.value,
    scale: view.scale.value,
    width: width.value,
    height: height.value,
    ratio: window.devicePixelRatio || 1,
  };
  const c = begin(canvas.value, look);
  if (!c) return;
  if (props.underlay) paintPicture(c, props.underlay, props.shown?.origin ?? [0, 0]);
  const gone = new Set(ghost.value?.gone ?? []);
  const tone = (p: Piece): Tone =>
    props.chosen.has(p.id) || props.lit?.has(p.id)
      ? "chosen"
      : gone.has(p.id) || props.later.has(p.step)
        ? "faint"
        : "ink";
  paint(c, look, drawn.value, tone);
  c.strokeStyle = colour("teal-pale");
  c.lineWidth = 1.5 / look.scale;
  for (const path of others.value) c.stroke(new Path2D(path));
  if (ghost.value) paint(c, look, ghost.value.pieces, () => "preview");
}
watch(
  [
    drawn,
    ghost,
    others,
    () => props.chosen,
    () => props.lit,
    () => props.later,
    () => props.underlay,
    view.center,
    view.scale,
    width,
    height,
  ],
  redraw,
);
onMounted(redraw);

// hands

const down = new Map<number, Point>();
let moved = 0;
const frame = useFrame(() => props.framing ?? "");
function placeOf(e: PointerEvent | WheelEvent): Point {
  const box = root.value?.getBoundingClientRect();
  return [e.clientX - (box?.left ?? 0), e.clientY - (box?.top ?? 0)];
}
function pointerAt(px: Point, touch = false): Pointer {
  return {
    at: view.fromScreen(...px),
    reach: ((touch ? 2 : 1) * REACH) / view.scale.value,
    pixel: 1 / view.scale.value,
  };
}
const tip = ref<Point | null>(null);
function press(e: PointerEvent): void {
  if (e.button === 1 || e.button === 0) {
    moved = down.size ? 99 : 0;
    down.set(e.pointerId, placeOf(e));
    (e.currentTarget as HTMLElement).setPointerCapture(e.pointerId);
    if (e.button === 0 && (e.shiftKey || props.framing)) frame.begin(placeOf(e));
    const one = e.button === 0 && down.size === 1 && !props.drawing ? pulledAt(placeOf(e)) : undefined;
    const lettered =
      !one && e.button === 0 && down.size === 1 && !props.drawing && !frame.begun.value
        ? letteredAt(drawn.value, view.fromScreen(...placeOf(e)))
        : undefined;
    pulls = one !== undefined || lettered !== undefined;
    if (one) emit("pull", one);
    else if (lettered) emit("grab", lettered.id, pointerAt(placeOf(e)));
  }
}
/** What can be pulled under a place of the screen. */
function pulledAt(px: Point): Pulled | undefined {
  return props.pulled?.find((p) => {
    const [x, y] = view.toScreen(p.at);
    return Math.hypot(x - px[0], y - px[1]) <= REACH;
  });
}
let pulls = false;
function between(): { x: number; y: number; apart: number } {
  const [a, b = a] = [...down.values()];
  if (!a || !b) return { x: 0, y: 0, apart: 0 };
  return { x: (a[0] + b[0]) / 2, y: (a[1] + b[1]) / 2, apart: Math.hypot(a[0] - b[0], a[1] - b[1]) };
}
function move(e: PointerEvent): void {
  const at = placeOf(e);
  tip.value = at;
  if (down.has(e.pointerId)) {
    const was = between();
    down.set(e.pointerId, at);
    const now = between();
    moved += Math.abs(now.x - was.x) + Math.abs(now.y - was.y);
    if (pulls) emit("pulling", pointerAt(at));
    else if (frame.begun.value) frame.move(at);
    else if (moved > 5) {
      view.panBy(now.x - was.x, now.y - was.y);
      if (down.size === 2 && was.apart > 0) view.zoomAt(now.x, now.y, now.apart / was.apart);
    }
    return;
  }
  emit("move", pointerAt(at));
}
function release(e: PointerEvent): void {
  if (!down.delete(e.pointerId) || down.size) return;
  if (pulls) {
    pulls = false;
    const touch = e.pointerType === "touch";
    emit("letGo", moved > 5 ? pointerAt(placeOf(e), touch) : null);
    if (moved <= 5 && e.button === 0) emit("press", pointerAt(placeOf(e), touch), e.shiftKey);
    return;
  }
  if (frame.begun.value && endFrame(e.ctrlKey)) return;
  if (moved <= 5 && e.button === 0)
    emit("press", pointerAt(placeOf(e), e.pointerType === "touch"), e.shiftKey);
}
/** Does what a frame is for; says whether there was one. */
function endFrame(more: boolean): boolean {
  const found = frame.end();
  if (!found) return false;
  const [from, to] = found;
  if (props.framing === "zoom") view.frameTo(from, to);
  else emit("window", view.fromScreen(...from), view.fromScreen(...to), more, frame.touches.value);
  emit("framed");
  return true;
}
function cancel(e: PointerEvent): void {
  down.delete(e.pointerId);
  if (pulls) emit("letGo", null);
  pulls = false;
}
function leave(): void {
  tip.value = null;
  emit("move", null);
}
useEventListener(
  root,
  "wheel",
  (e: WheelEvent) => {
    e.preventDefault();
    view.wheelAt(...placeOf(e), e.deltaY);
    if (tip.value) emit("move", pointerAt(tip.value));
  },
  { passive: false },
);

/** Keys on the sheet move it; with a sentence open they move the pointer, so that everything can be pointed by keys. */
function key(e: KeyboardEvent): void {
  if (e.target !== root.value) return;
  const way = ARROWS[e.key];
  if (way && (props.drawing || props.framing)) {
    const far = e.shiftKey ? 1 : 12;
    const at = tip.value ?? [width.value / 2, height.value / 2];
    tip.value = [
      Math.min(Math.max(at[0] + way[0] * far, 0), width.value),
      Math.min(Math.max(at[1] + way[1] * far, 0), height.value),
    ];
    frame.move(tip.value);
    emit("move", pointerAt(tip.value));
  } else if (props.framing && e.key === "Enter") {
    if (!frame.begun.value) frame.begin(tip.value ?? [width.value / 2, height.value / 2]);
    else endFrame(e.ctrlKey);
  } else if (props.framing && e.key === "Escape") {
    frame.end();
    emit("framed");
  } else if (way) view.panBy(-way[0] * 60, -way[1] * 60);
  else if (e.key === "Enter" && tip.value) emit("press", pointerAt(tip.value), e.shiftKey);
  else if (e.key === "+") view.zoomBy(1.3);
  else if (e.key === "-") view.zoomBy(1 / 1.3);
  else if (e.key === "0") view.fit();
  else return;
  e.preventDefault();
  e.stopPropagation();
}

defineExpose({ fit: view.fit, back: view.back, canGoBack: view.canGoBack });
</script>

<template>
  <div
    ref="root"
    class="paper relative h-full w-full touch-none overflow-hidden select-none"
    :class="drawing || framing ? 'cursor-crosshair' : 'cursor-default'"
    tabindex="0"
    role="group"
    aria-label="Drawing area. Arrow keys move it, plus and minus zoom, 0 fits."
    data-sheet
    @pointerdown="press"
    @mousedown="(e) => drawing && e.preventDefault()"
    @pointermove="move"
    @pointerup="release"
    @pointercancel="cancel"
    @pointerleave="leave"
    @keydown="key"
  >
    <SheetGrid :view="view" :shown="shown" :grid="grid" />
    <canvas ref="canvas" class="absolute inset-0 h-full w-full" aria-hidden="true" />
    <SheetMarks
      :view="view"
      :width="width"
      :height="height"
      :shown="shown"
      :points="points"
      :pulled="drawing ? [] : (pulled ?? [])"
      :pointed="pointed"
      :tip="tip"
      :window="frame.now.value"
      :frame-says="frame.says.value"
      :mark="mark"
    />
    <button
      v-if="view.outOfSight.value !== null && !props.shown?.empty"
      class="press absolute top-1/2 left-1/2 -translate-x-1/2 -translate-y-1/2"
      @pointerdown.stop
      @click="view.fit"
    >
      <span aria-hidden="true" :style="{ transform: `rotate(${view.outOfSight.value}deg)` }">→</span> Back to
      the drawing
    </button>
  </div>
</template>
