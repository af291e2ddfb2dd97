/** A frame that is dragged over the sheet, or set by keys: what it takes, wholly inside or also touched, and where it is. */
import { useEventListener, useStorage } from "@vueuse/core";
import { computed, shallowRef } from "vue";
import type { Point } from "../view";

/** What a frame is for: choosing what lies in it, or seeing that alone. */
export type Framing = "" | "choose" | "zoom";

const touches = useStorage("even-mark board frame touches", false);

export function useFrame(framing: () => Framing) {
  const from = shallowRef<Point | null>(null);
  const to = shallowRef<Point | null>(null);
  const now = computed<readonly [Point, Point] | null>(
    () => from.value && to.value && [from.value, to.value],
  );
  /** What is said beside the pointer of what it takes. */
  const says = computed(() => {
    if (!now.value) return "";
    if (framing() === "zoom") return "zooms to this";
    return touches.value ? "selects what it touches, too" : "selects what is wholly inside";
  });
  function end(): readonly [Point, Point] | null {
    const found = now.value;
    from.value = to.value = null;
    return found;
  }
  // while it is dragged one key switches what it takes
  useEventListener(window, "keydown", (e: KeyboardEvent) => {
    if (!from.value || e.key !== "Tab") return;
    touches.value = !touches.value;
    e.preventDefault();
    e.stopImmediatePropagation();
  });
  return {
    touches,
    now,
    says,
    begun: computed(() => from.value !== null),
    begin: (at: Point) => (from.value = at),
    move: (at: Point) => {
      if (from.value) to.value = at;
    },
    end,
  };
}
