/** What is chosen on a page stands in its address, so that going back finds it again. */
import { computed } from "vue";
import { useRoute, useRouter } from "vue-router";

export function inAddress<T extends string>(name: string, otherwise: T) {
  const route = useRoute();
  const router = useRouter();
  return computed<T>({
    get: () => (typeof route.query[name] === "string" ? (route.query[name] as T) : otherwise),
    set: (value) =>
      void router.replace({ query: { ...route.query, [name]: value === otherwise ? undefined : value } }),
  });
}
