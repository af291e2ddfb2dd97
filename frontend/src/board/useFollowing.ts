/** A drawing that is followed on a board: begun on a practice sheet of one's own, gone on with when the page is opened again. */
import { computed, type Ref } from "vue";
import { useRoute, useRouter } from "vue-router";
import { post } from "../api/client";
import { LESSONS } from "./lessons";
import type { Hold } from "./pointing";
import type { BoardState } from "./useBoard";
import type { Tried } from "./useChosen";
import { useFollow } from "./useFollow";
import type { SentenceState } from "./useSentence";

export function useFollowing(board: BoardState, sentence: SentenceState, settings: Ref<Hold>, tried: Tried) {
  const route = useRoute();
  const router = useRouter();
  const steps = computed(() => board.rows.value.filter((r) => r.kind === "step").length);
  const follow = useFollow({
    text: sentence.text,
    choosing: sentence.choosing,
    steps: () => steps.value,
    beginsOf: (kind) => sentence.kinds.value.find((k) => k.says === kind)?.begins ?? kind,
    inScene: ([x, y]) => {
      const [ox, oy] = board.view.value?.origin ?? [0, 0];
      return [x - ox, oy - y];
    },
  });
  async function start(name: string): Promise<void> {
    const lesson = LESSONS.find((l) => l.name === name);
    if (!lesson) return;
    follow.putAway();
    const title = `Practice: ${lesson.title}`;
    const made = await tried(() => post("/api/boards", undefined, { title, unit: "mm" }));
    const from = typeof route.query.from === "string" ? route.query.from : route.path;
    if (made) await router.push({ path: `/boards/${made.board_id}`, query: { follow: name, from } });
  }
  /** Goes on with the drawing that the address names. */
  function open(): void {
    const { follow: name } = route.query;
    if (typeof name !== "string") return;
    follow.begin(name, steps.value);
    if (follow.lesson.value) settings.value = { ...settings.value, grid: follow.lesson.value.grid };
  }
  return { ...follow, start, open };
}
