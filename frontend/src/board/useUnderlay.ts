/** The picture under the sheet that is traced: laid under, moved, scaled by two places and a distance, shown more or less. */
import { computed, readonly, ref, shallowReadonly, shallowRef, watch } from "vue";
import { fileForm, patch, remove, upload, type Schemas } from "../api/client";
import type { Point } from "../view";
import type { BoardState } from "./useBoard";
import type { Tried } from "./useChosen";

export type Lies = Schemas["UnderlayOut"];
type Doing = "" | "move" | "scale";
export const PICTURES = ".png,.jpg,.jpeg";
export const isPicture = (file: File) =>
  /^image\/(png|jpeg)$/.test(file.type) || /\.(png|jpe?g)$/i.test(file.name);

export function useUnderlay(id: number, board: BoardState, tried: Tried) {
  const lies = shallowRef<Lies | null>(null);
  const image = shallowRef<HTMLImageElement | null>(null);
  const shown = ref(true);
  const opened = ref(false);
  /** What presses on the sheet are for, and the places that were pressed. */
  const doing = ref<Doing>("");
  const places = shallowRef<Point[]>([]);
  const apart = ref("");
  const level = ref(false);
  watch(board.page, (page) => (lies.value = page?.underlay ?? null), { immediate: true });
  watch(
    () => lies.value?.mark,
    (mark) => {
      image.value = null;
      if (!mark) return;
      const made = new Image();
      made.onload = () => {
        if (lies.value?.mark === mark) image.value = made;
      };
      made.src = `/api/boards/${id}/picture?mark=${mark}`;
    },
    { immediate: true },
  );
  const here = computed(() =>
    lies.value && image.value && shown.value ? { ...lies.value, image: image.value } : null,
  );

  async function put(file: File): Promise<void> {
    const found = await upload("/api/boards/{board_id}/picture", { board_id: id }, fileForm(file));
    lies.value = found;
    shown.value = opened.value = true;
  }
  function begin(what: Doing): void {
    doing.value = doing.value === what ? "" : what;
    places.value = [];
    apart.value = "";
  }
  function close(): void {
    begin("");
    opened.value = false;
  }
  const place = (change: Schemas["UnderlayIn"]) =>
    tried(async () => {
      lies.value = await patch("/api/boards/{board_id}/picture", { board_id: id }, change);
    });
  async function press(at: Point): Promise<void> {
    if (places.value.length < 2) places.value = [...places.value, at];
    if (doing.value === "move" && places.value.length === 2) await settle();
  }
  /** Moves the picture, or scales it by what is typed. */
  async function settle(): Promise<void> {
    const [ox, oy] = board.view.value?.origin ?? [0, 0];
    const [a, b] = places.value.map(([x, y]) => [x + ox, oy - y] as [number, number]);
    if (!a || !b) return;
    const scales = doing.value === "scale";
    await place({
      places: [a, b],
      apart: scales ? apart.value : "",
      level: scales && level.value,
    });
    begin("");
  }
  const strength = (value: number) => {
    if (lies.value) lies.value = { ...lies.value, strength: value };
    return place({ strength: value });
  };
  const drop = () =>
    tried(async () => {
      await remove("/api/boards/{board_id}/picture", { board_id: id });
      lies.value = null;
      close();
    });

  return {
    lies: shallowReadonly(lies),
    here,
    shown: readonly(shown),
    opened: readonly(opened),
    doing: readonly(doing),
    places: shallowReadonly(places),
    /** What is typed into the box: its fields are the page's own. */
    apart,
    level,
    open: () => void (opened.value = true),
    close,
    toggle: () => void (shown.value = !shown.value),
    put,
    begin,
    press,
    settle,
    strength,
    drop,
  };
}
export type UnderlayState = ReturnType<typeof useUnderlay>;
