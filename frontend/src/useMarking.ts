/** One attempt over its key, and everything that is done to its marks; each act is saved before it shows. */
import { keepPreviousData, useQuery, useQueryClient } from "@tanstack/vue-query";
import { computed, readonly, ref, type Ref } from "vue";
import { get, post, saysOf, type Schemas } from "./api/client";

export type Marking = Schemas["MarkingOut"];

export function useMarking(id: Ref<number>, only: Ref<string | null>) {
  const client = useQueryClient();
  const key = computed(() => ["marking", id.value, only.value]);
  const query = computed(() => (only.value ? `?only=${only.value}` : ""));
  const found = useQuery({
    queryKey: key,
    queryFn: () => get<Marking>(`/attempts/${id.value}${query.value}`),
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
  async function act(path: string, body: unknown, done: string | ((m: Marking) => string)): Promise<boolean> {
    const shown = found.data.value?.attempt_id;
    if (busy.value || shown === undefined) return false;
    if (loading.value) {
      say("The next drawing is still loading. Nothing was done.", true);
      return false;
    }
    busy.value = true;
    const [at, asked] = [key.value, query.value];
    try {
      const now = await post<Marking>(`/attempts/${shown}/${path}${asked}`, body);
      client.setQueryData(at, now);
      void client.invalidateQueries({ queryKey: ["results"] });
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
    override: (body: { finding: number; verdict: string; reason: string; marks: number | null }) =>
      act("overrides", body, `Finding ${body.finding} is ${body.verdict} now.`),
    comment: (body: { text: string; finding: number | null; at: readonly [number, number] | null }) =>
      act("comments", body, "Comment added."),
    undo: (one?: number) => act("undo", { act: one ?? null }, newest),
    redo: () => act("redo", {}, newest),
    giveBack: () => act("return", {}, (m) => `Returned to ${m.student}.`),
    takeBack: () => act("take-back", {}, (m) => `Taken back. ${m.student} no longer sees these marks.`),
    markAgain: () => act("mark-again", {}, "Being marked again."),
    say,
  };
}
