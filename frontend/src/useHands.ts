/** What hands do on a sheet: drag it, spread two fingers on it, press one place. */
import type { Ref } from "vue";
import type { useView } from "./view";

/** A press that moved further, in pixels, was a drag. */
const STILL = 5;

export function useHands(
  root: Ref<HTMLElement | null>,
  view: Pick<ReturnType<typeof useView>, "panBy" | "zoomAt">,
  pressed: (x: number, y: number) => void,
) {
  const down = new Map<number, { x: number; y: number }>();
  let moved = 0;
  const corner = () => root.value?.getBoundingClientRect() ?? { left: 0, top: 0 };
  function press(e: PointerEvent): void {
    if (e.button !== 0) return;
    if (!down.size) moved = 0;
    else moved = STILL; // a second finger names no place
    down.set(e.pointerId, { x: e.clientX, y: e.clientY });
    (e.currentTarget as HTMLElement).setPointerCapture(e.pointerId);
  }
  /** Where the fingers are together, and how far they are apart. */
  function grip(): { x: number; y: number; apart: number } {
    const [a, b = a] = [...down.values()];
    if (!a || !b) return { x: 0, y: 0, apart: 0 };
    return { x: (a.x + b.x) / 2, y: (a.y + b.y) / 2, apart: Math.hypot(a.x - b.x, a.y - b.y) };
  }
  function drag(e: PointerEvent): void {
    if (!down.has(e.pointerId)) return;
    const before = grip();
    down.set(e.pointerId, { x: e.clientX, y: e.clientY });
    const now = grip();
    const [dx, dy] = [now.x - before.x, now.y - before.y];
    view.panBy(dx, dy);
    moved += Math.abs(dx) + Math.abs(dy);
    if (down.size === 2 && before.apart > 0) {
      const { left, top } = corner();
      view.zoomAt(now.x - left, now.y - top, now.apart / before.apart);
    }
  }
  function release(e: PointerEvent): void {
    const was = down.delete(e.pointerId);
    if (!was || down.size || moved >= STILL) return;
    const { left, top } = corner();
    pressed(e.clientX - left, e.clientY - top);
  }
  const letGo = (e: PointerEvent) => void down.delete(e.pointerId);
  return { press, drag, release, letGo };
}
