/** A long list: words to find in it, filters, and one page at a time; all of it stands in the address, so that going back finds it again. */
import { computed, type Ref } from "vue";
import { useRoute, useRouter } from "vue-router";

export interface Listing<T> {
  /** What of a row is searched. */
  textOf: (row: T) => string;
  /** Rows on a page. */
  per: number;
  /** What stands before the names in the address, where a page has several lists. */
  prefix?: string;
  /** The filters by name, each with the value that it has when none is chosen, and whether a row passes. */
  filters?: Record<string, { otherwise: string; passes: (row: T, value: string) => boolean }>;
}

/** Letters without marks and case, so that "zoe" finds Zoë. */
export const plainLetters = (text: string) => text.normalize("NFKD").replace(/\p{M}/gu, "").toLowerCase();

/** The rows that hold every word, in any order. */
export function found<T>(rows: readonly T[], textOf: (row: T) => string, words: string): T[] {
  const asked = plainLetters(words).split(/\s+/).filter(Boolean);
  return rows.filter((row) => {
    const text = plainLetters(textOf(row));
    return asked.every((word) => text.includes(word));
  });
}

export function useListing<T>(
  rows: Ref<readonly T[]>,
  { textOf, per, prefix = "", filters = {} }: Listing<T>,
) {
  const route = useRoute();
  const router = useRouter();
  const named = (name: string) => prefix + name;
  const asked = (name: string) => {
    const value = route.query[named(name)];
    return typeof value === "string" ? value : "";
  };
  function put(values: Record<string, string>): void {
    const kept = Object.entries(route.query).filter(
      ([name]) => !Object.keys(values).map(named).includes(name),
    );
    const chosen = Object.entries(values).flatMap(([name, value]) =>
      value ? [[named(name), value] as const] : [],
    );
    void router.replace({ query: Object.fromEntries([...kept, ...chosen]) });
  }
  const find = computed({ get: () => asked("find"), set: (value) => put({ find: value, page: "" }) });
  const filter = (name: string) => {
    const otherwise = filters[name]?.otherwise ?? "";
    return computed({
      get: () => asked(name) || otherwise,
      set: (value: string | null) => put({ [name]: value && value !== otherwise ? value : "", page: "" }),
    });
  };
  const wanted = computed(() => {
    const passing = rows.value.filter((row) =>
      Object.entries(filters).every(([name, f]) => f.passes(row, asked(name) || f.otherwise)),
    );
    return found(passing, textOf, find.value);
  });
  const pages = computed(() => Math.max(1, Math.ceil(wanted.value.length / per)));
  const page = computed({
    get: () => Math.min(Math.max(Math.trunc(Number(asked("page"))) || 1, 1), pages.value),
    set: (value) => put({ page: value > 1 ? String(value) : "" }),
  });
  const first = computed(() => (page.value - 1) * per);
  const shown = computed(() => wanted.value.slice(first.value, first.value + per));
  return { find, filter, page, pages, shown, count: computed(() => wanted.value.length), first };
}
