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
    if (busy.value) return false;
    busy.value = true;
    try {
      const now = await post<Marking>(`/attempts/${id.value}/${path}${query.value}`, body);
      client.setQueryData(key.value, now);
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
