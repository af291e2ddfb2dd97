/** One attempt over its key, and everything that is done to its marks; each act is saved before it shows. */
import { keepPreviousData, useQuery, useQueryClient } from "@tanstack/vue-query";
import { computed, readonly, ref, type Ref } from "vue";
import { get, post, saysOf, type Schemas } from "./api/client";
import { keys } from "./queries";

export type Marking = Schemas["MarkingOut"];

export function useMarking(id: Ref<number>, only: Ref<string | null>) {
  const client = useQueryClient();
  const key = computed(() => keys.marking(id.value, only.value));
  const query = computed(() => (only.value ? { only: only.value } : {}));
  const found = useQuery({
    queryKey: key,
    queryFn: () => get("/api/attempts/{attempt_id}", { attempt_id: id.value }, query.value),
    placeholderData: keepPreviousData,
    refetchInterval: (q) => (q.state.data?.state === "waiting" ? 1000 : false),
  });
  /** Whether what is shown belongs to another attempt than the one asked for, which is not there yet: nothing can be done to either. */
  const loading = computed(() => found.data.value !== undefined && found.data.value.attempt_id !== id.value);
  const said = ref<{ text: string; wrong: boolean } | null>(null);
  const busy = ref(false);
  let timer: ReturnType<typeof setTimeout> | undefined;

  function say(text: string, wrong = false): void {
    said.value = { text, wrong };
    clearTimeout(timer);
    timer = setTimeout(() => (said.value = null), wrong ? 9000 : 4500);
  }
  /** Does something on the server; shows what it gave back, or says why not. */
  async function act(
    ask: (at: { attempt_id: number }, query: { only?: string }) => Promise<Marking>,
    done: string | ((m: Marking) => string),
  ): Promise<boolean> {
    const shown = found.data.value?.attempt_id;
    if (busy.value || shown === undefined) return false;
    if (loading.value) {
      say("The next drawing is still loading. Nothing was done.", true);
      return false;
    }
    busy.value = true;
    const [at, asked] = [key.value, query.value];
    try {
      const now = await ask({ attempt_id: shown }, asked);
      client.setQueryData(at, now);
      void client.invalidateQueries({ queryKey: keys.results() });
      say(typeof done === "string" ? done : done(now));
      return true;
    } catch (why) {
      say(saysOf(why), true);
      return false;
    } finally {
      busy.value = false;
    }
  }
  const newest = (m: Marking) => m.history.find((h) => h.act !== null)?.says ?? "";
  return {
    ...found,
    said: readonly(said),
    busy: readonly(busy),
    loading,
    override: (body: Schemas["OverrideIn"]) =>
      act(
        (at, query) => post("/api/attempts/{attempt_id}/overrides", at, body, query),
        `Finding ${body.finding} is ${body.verdict} now.`,
      ),
    comment: (body: Schemas["CommentIn"]) =>
      act((at, query) => post("/api/attempts/{attempt_id}/comments", at, body, query), "Comment added."),
    undo: (one?: number) =>
      act((at, query) => post("/api/attempts/{attempt_id}/undo", at, { act: one ?? null }, query), newest),
    redo: () => act((at, query) => post("/api/attempts/{attempt_id}/redo", at, undefined, query), newest),
    giveBack: () =>
      act(
        (at, query) => post("/api/attempts/{attempt_id}/return", at, undefined, query),
        (m) => `Returned to ${m.student}.`,
      ),
    takeBack: () =>
      act(
        (at, query) => post("/api/attempts/{attempt_id}/take-back", at, undefined, query),
        (m) => `Marks recalled. ${m.student} no longer sees them.`,
      ),
    markAgain: () =>
      act(
        (at, query) => post("/api/attempts/{attempt_id}/mark-again", at, undefined, query),
        "Being marked again.",
      ),
    say,
  };
}
