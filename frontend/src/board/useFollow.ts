/** Following a drawing: which step is next, what of it is done, and where to press. */
import { useStorage } from "@vueuse/core";
import { computed, ref, shallowRef, watch, type Ref } from "vue";
import type { Point } from "../view";
import { personId } from "../who";
import { LESSONS, type Lesson } from "./lessons";
import type { Pointer } from "./pointing";

/** How near to the marker a press has to be, in pixels. */
const NEAR_PX = 16;

/** What the page knows that follows: the line, the kinds that are offered, how many steps there are. */
export interface Followed {
  text: Readonly<Ref<string>>;
  choosing: Readonly<Ref<boolean>>;
  steps: () => number;
  beginsOf: (kind: string) => string;
  /** A place of the drawing in the scene. */
  inScene: (p: Point) => Point;
}
export interface Next {
  how: "kind" | "press" | "type" | "enter" | "astray" | "done";
  says: string;
  /** The kind to be chosen. */
  kind?: string;
  /** Where to press, in the scene. */
  at?: Point;
}
const bare = (says: string) =>
  says
    .trim()
    .replace(/[;·\s]+$/, "")
    .toLowerCase();

export function useFollow(on: Followed) {
  const lesson = shallowRef<Lesson | null>(null);
  /** How many of its steps are drawn. */
  const stage = ref(0);
  /** How many places of the step are pressed, and the line as it stood before each. */
  const pressed = ref(0);
  let stood: string[] = [];
  /** Whether the last press was elsewhere. */
  const astray = ref(false);
  /** How many steps there were when one was drawn that is not of it. */
  const other = ref<number | null>(null);
  const offered = useStorage(`even-mark follow ${personId()}`, "offered");

  const now = computed(() => lesson.value?.stages[stage.value] ?? null);
  const presses = computed(() => (now.value?.parts ?? []).filter((p) => "press" in p));
  const typed = computed(() => (now.value?.parts ?? []).find((p) => "type" in p));
  const isTyped = computed(
    () => !typed.value || !("type" in typed.value) || bare(on.text.value).endsWith(typed.value.type),
  );
  const next = computed<Next | null>(() => {
    if (!lesson.value) return null;
    if (!now.value) return { how: "done", says: `${lesson.value.title} is drawn.` };
    const back = "Ctrl+Z undoes it.";
    if (other.value !== null) return { how: "astray", says: `That is a different step. ${back}` };
    const { kind } = now.value;
    if (on.choosing.value) return { how: "kind", says: `Choose “${kind}”.`, kind };
    if (!on.text.value.toLowerCase().startsWith(on.beginsOf(kind)))
      return { how: "astray", says: `That is a different kind. Press Esc, then choose “${kind}”.` };
    if (astray.value) return { how: "astray", says: `That was a different place. ${back}` };
    const place = presses.value[pressed.value];
    if (place && "press" in place) return { how: "press", says: place.says, at: on.inScene(place.press) };
    if (!isTyped.value) return { how: "type", says: typed.value?.says ?? "" };
    return { how: "enter", says: "Press Enter, or “Add step”." };
  });
  /** Whether all was pressed and typed that the step needs, as the line stood last. */
  let complete = false;
  function weigh(): void {
    complete = !astray.value && pressed.value === presses.value.length && isTyped.value;
  }
  function again(): void {
    pressed.value = 0;
    stood = [];
    astray.value = false;
  }

  /** Hears of a press on the sheet before it is worked out. */
  function press(p: Pointer): void {
    if (!now.value || on.choosing.value) return;
    const at = next.value?.at;
    stood[pressed.value] = on.text.value;
    if (at && Math.hypot(at[0] - p.at[0], at[1] - p.at[1]) <= NEAR_PX * p.pixel) pressed.value++;
    else astray.value = true;
    weigh();
  }
  watch(on.text, (says) => {
    if (!says.trim()) return again(); // what had been complete is a step now, or was cancelled
    const back = stood.findIndex((one) => one === says);
    if (back >= 0 && back <= pressed.value) {
      pressed.value = back;
      stood = stood.slice(0, back);
      astray.value = false;
    }
    weigh();
  });
  watch(on.steps, (count, before) => {
    if (!lesson.value) return;
    if (count < before) {
      if (other.value !== null && count < other.value) other.value = null;
      stage.value = Math.min(stage.value, count);
    } else if (count > before && now.value) {
      if (complete && other.value === null) stage.value++;
      else other.value ??= count;
    }
    complete = false;
    again();
  });

  return {
    lesson,
    stage,
    next,
    now,
    /** Whether drawings to follow are offered to who has not drawn yet. */
    offered: computed(() => offered.value === "offered"),
    press,
    begin(name: string, steps: number): void {
      lesson.value = LESSONS.find((l) => l.name === name) ?? null;
      stage.value = Math.min(steps, lesson.value?.stages.length ?? 0);
      again();
    },
    putAway(): void {
      offered.value = "left";
    },
  };
}
export type FollowState = ReturnType<typeof useFollow>;
