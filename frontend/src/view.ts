/** Panning and zooming: which part of a scene fills an element. Pixels to drawing units and back; no rules of the job. */
import { computed, ref, watch, type Ref } from "vue";

export type Point = readonly [number, number];
export type Box = readonly [number, number, number, number];

/** Where the arrow keys lead on the screen. */
export const ARROWS: Readonly<Record<string, Point>> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};
export const MOST_ZOOM = 1e7;
/** A drawing that takes less of the sheet than this is not seen well. */
const LEAST_SHARE = 0.12;
/** Views that can be gone back to, and what lies longer apart than this leads to another one. */
const MOST_BEFORE = 20;
const APART_MS = 700;

/** ``steady``: the view stays where it is while what is in it changes, as long as all of it can be seen well. */
export function useView(
  width: Ref<number>,
  height: Ref<number>,
  content: Ref<Box>,
  margin = 34,
  steady = false,
) {
  const center = ref<Point>([0, 0]);
  const scale = ref(1);
  let fitted = true;

  function fitScale(box: Box): number {
    const w = Math.max(width.value - 2 * margin, 20);
    const h = Math.max(height.value - 2 * margin, 20);
    return Math.min(w / Math.max(box[2], 1e-9), h / Math.max(box[3], 1e-9));
  }
  // views before this one: what is done within a moment is one way to another view
  const past: { center: Point; scale: number }[] = [];
  const canGoBack = ref(false);
  let movedAt = -Infinity;
  function remember(): void {
    const now = performance.now();
    if (now - movedAt > APART_MS && width.value > 0) {
      past.push({ center: center.value, scale: scale.value });
      if (past.length > MOST_BEFORE) past.shift();
      canGoBack.value = true;
    }
    movedAt = now;
  }
  /** Goes back to the view before. */
  function back(): void {
    const view = past.pop();
    canGoBack.value = past.length > 0;
    if (!view) return;
    center.value = view.center;
    scale.value = view.scale;
    fitted = false;
    movedAt = -Infinity;
  }
  /** Shows what lies between two places of the screen as large as it can be. */
  function frameTo(a: Point, b: Point): void {
    const [from, to] = [fromScreen(...a), fromScreen(...b)];
    const box: Box = [
      Math.min(from[0], to[0]),
      Math.min(from[1], to[1]),
      Math.abs(from[0] - to[0]),
      Math.abs(from[1] - to[1]),
    ];
    if (Math.max(box[2], box[3]) <= 0) return;
    remember();
    center.value = [box[0] + box[2] / 2, box[1] + box[3] / 2];
    scale.value = Math.min(fitScale(box), (fitScale(content.value) / 20) * MOST_ZOOM);
    fitted = false;
  }
  function fit(): void {
    if (!fitted) remember();
    fitNow();
  }
  function fitNow(): void {
    const b = content.value;
    center.value = [b[0] + b[2] / 2, b[1] + b[3] / 2];
    scale.value = fitScale(b);
    fitted = true;
  }
  function zoomAt(px: number, py: number, factor: number): void {
    const least = fitScale(content.value) / 20;
    const next = Math.min(Math.max(scale.value * factor, least), least * MOST_ZOOM);
    remember();
    const [x, y] = fromScreen(px, py);
    center.value = [x - (px - width.value / 2) / next, y - (py - height.value / 2) / next];
    scale.value = next;
    fitted = false;
  }
  /** Enlarges or reduces about the middle. */
  const zoomBy = (factor: number) => zoomAt(width.value / 2, height.value / 2, factor);
  /** Enlarges or reduces by a wheel, about where it is turned. */
  const wheelAt = (px: number, py: number, delta: number) => zoomAt(px, py, Math.exp(-delta * 0.0016));
  function panBy(dx: number, dy: number): void {
    remember();
    center.value = [center.value[0] - dx / scale.value, center.value[1] - dy / scale.value];
    fitted = false;
  }
  /** Bring a place into view, so large that `size` units fill about a third of the sheet; never smaller than now fitted. */
  function lookAt(at: Point, size: number): void {
    const whole = fitScale(content.value);
    const wanted = Math.min(width.value, height.value) / 3 / Math.max(size, 1e-9);
    scale.value = Math.min(Math.max(wanted, whole), whole * 12);
    center.value = at;
    fitted = false;
  }
  function toScreen(p: Point): Point {
    return [
      (p[0] - center.value[0]) * scale.value + width.value / 2,
      (p[1] - center.value[1]) * scale.value + height.value / 2,
    ];
  }
  function fromScreen(px: number, py: number): Point {
    return [
      center.value[0] + (px - width.value / 2) / scale.value,
      center.value[1] + (py - height.value / 2) / scale.value,
    ];
  }
  const viewBox = computed(() => {
    const w = Math.max(width.value, 1) / scale.value;
    const h = Math.max(height.value, 1) / scale.value;
    return `${center.value[0] - w / 2} ${center.value[1] - h / 2} ${w} ${h}`;
  });
  /** Which way the drawing lies when nothing of it is in sight, in degrees clockwise from the right; null when it is. */
  const outOfSight = computed<number | null>(() => {
    const b = content.value;
    const [left, top] = toScreen([b[0], b[1]]);
    const [right, bottom] = toScreen([b[0] + b[2], b[1] + b[3]]);
    if (right > 0 && left < width.value && bottom > 0 && top < height.value) return null;
    return (
      (Math.atan2((top + bottom) / 2 - height.value / 2, (left + right) / 2 - width.value / 2) * 180) /
      Math.PI
    );
  });
  function isSeenWell(b: Box): boolean {
    const [left, top] = toScreen([b[0], b[1]]);
    const [right, bottom] = toScreen([b[0] + b[2], b[1] + b[3]]);
    const inside = left >= 0 && top >= 0 && right <= width.value && bottom <= height.value;
    return inside && Math.max((right - left) / width.value, (bottom - top) / height.value) > LEAST_SHARE;
  }
  watch([width, height, content], (_now, [before]) => {
    if (fitted && !(steady && before > 0 && isSeenWell(content.value))) fitNow();
  });
  return {
    center,
    scale,
    viewBox,
    outOfSight,
    fit,
    back,
    canGoBack,
    frameTo,
    zoomAt,
    zoomBy,
    wheelAt,
    panBy,
    lookAt,
    toScreen,
    fromScreen,
  };
}
