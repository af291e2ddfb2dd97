/** Something that is sent: whether it is on its way, what came of it, what stood against it. One for each form or dialog. */
import { readonly, ref } from "vue";
import { saysOf } from "./api/client";

export function useAct() {
  const busy = ref(false);
  const trouble = ref("");
  const said = ref("");
  /** Does it unless something is on its way already; gives back what came of it, or nothing when it was refused. */
  async function act<T>(work: () => Promise<T>): Promise<T | undefined> {
    if (busy.value) return undefined;
    busy.value = true;
    trouble.value = said.value = "";
    try {
      const done = await work();
      if (done && typeof done === "object" && "says" in done) said.value = String(done.says);
      return done;
    } catch (why) {
      trouble.value = saysOf(why);
      return undefined;
    } finally {
      busy.value = false;
    }
  }
  function clear(): void {
    trouble.value = said.value = "";
  }
  return { busy: readonly(busy), trouble, said, act, clear };
}
