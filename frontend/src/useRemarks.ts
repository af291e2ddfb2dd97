/** What is written about a drawing while it is marked: a comment with its place, and another verdict. It belongs to the drawing that it was typed about, and is kept until it is saved. */
import { computed, readonly, ref, watch, type Ref } from "vue";
import { keepDraft, readDraft, reasonKey } from "./drafts";
import type { Marking, useMarking } from "./useMarking";
import type { Point } from "./view";

export type Dialog = "override" | "comment" | "history" | "keys" | "differs" | null;

export function useRemarks(
  marking: ReturnType<typeof useMarking>,
  data: Readonly<Ref<Marking | undefined>>,
  open: Ref<Dialog>,
) {
  /** Whether the place that a comment is about is being shown. */
  const placing = ref(false);
  const place = ref<Point | null>(null);
  const draftKey = computed(() => `comment ${data.value?.attempt_id ?? ""}`);
  const draft = ref("");
  watch(draftKey, (key) => (draft.value = readDraft(key) ?? ""), { immediate: true });
  watch(draft, (text) => keepDraft(draftKey.value, text));

  function start(): void {
    place.value = null;
    open.value = "comment";
  }
  function pickPlace(): void {
    open.value = null;
    placing.value = true;
  }
  function placed(at: Point): void {
    placing.value = false;
    place.value = at;
    open.value = "comment";
  }
  function letGo(): void {
    placing.value = false;
  }
  function forget(): void {
    letGo();
    place.value = open.value = null;
  }
  async function saveOverride(body: Parameters<typeof marking.override>[0]): Promise<void> {
    const key = reasonKey(data.value?.attempt_id, body.finding);
    if (!(await marking.override(body))) return;
    open.value = null;
    keepDraft(key, null);
  }
  async function saveComment(body: Parameters<typeof marking.comment>[0]): Promise<void> {
    const key = draftKey.value;
    if (!(await marking.comment(body))) return;
    open.value = null;
    keepDraft(key, null);
    draft.value = "";
  }
  return {
    placing: readonly(placing),
    place: readonly(place),
    draft,
    start,
    pickPlace,
    placed,
    letGo,
    forget,
    saveOverride,
    saveComment,
  };
}
