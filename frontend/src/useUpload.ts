/** Sending files: how much has gone, and a way to stop it. What was stopped is no trouble. */
import { onScopeDispose, readonly, ref } from "vue";
import { type AnswerOf, type PathOf, Refusal, saysOf, upload } from "./api/client";

export function useUpload() {
  const busy = ref(false);
  /** Share of the files that has gone, from 0 to 1; what is done with them then takes its time too. */
  const share = ref(0);
  const trouble = ref("");
  let abort: AbortController | null = null;

  async function send<P extends PathOf<"post">>(
    path: P,
    places: Parameters<typeof upload<P>>[1],
    form: FormData,
  ): Promise<AnswerOf<P, "post"> | undefined> {
    if (busy.value) return undefined;
    busy.value = true;
    share.value = 0;
    trouble.value = "";
    abort = new AbortController();
    try {
      return await upload(path, places, form, {
        signal: abort.signal,
        onProgress: (part) => (share.value = part),
      });
    } catch (why) {
      if (!(why instanceof Refusal && why.code === "stopped")) trouble.value = saysOf(why);
      return undefined;
    } finally {
      busy.value = false;
      abort = null;
    }
  }
  const stop = () => abort?.abort();
  onScopeDispose(stop);
  return { busy: readonly(busy), share: readonly(share), trouble, send, stop };
}
