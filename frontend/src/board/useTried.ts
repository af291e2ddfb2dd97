/** What is tried on a page: where it cannot be done, why is said in its place. */
import { readonly, ref } from "vue";
import { whyOf } from "./useBoard";

export function useTried() {
  const says = ref("");
  async function tried<T>(work: () => Promise<T>): Promise<T | undefined> {
    says.value = "";
    try {
      return await work();
    } catch (why) {
      says.value = whyOf(why);
      return undefined;
    }
  }
  return { says: readonly(says), tried };
}
