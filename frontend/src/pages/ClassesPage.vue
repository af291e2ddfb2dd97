<script setup lang="ts">
import { useQuery } from "@tanstack/vue-query";
import { computed, ref } from "vue";
import { useRouter } from "vue-router";
import { get, post } from "../api/client";
import AppBar from "../components/AppBar.vue";
import ChoiceList from "../components/ChoiceList.vue";
import FindBar from "../components/FindBar.vue";
import PageSteps from "../components/PageSteps.vue";
import StateNote from "../components/StateNote.vue";
import { useAct } from "../useAct";
import { useListing } from "../useListing";
import { keys } from "../queries";

const router = useRouter();
const { data, isPending, error, refetch } = useQuery({
  queryKey: keys.classes,
  queryFn: () => get("/api/classes"),
});
const rows = computed(() => data.value?.classes ?? []);
const list = useListing(rows, {
  textOf: (c) => c.name,
  per: 24,
  filters: { which: { otherwise: "here", passes: (c, value) => c.archived === (value === "over") } },
});
const { find, page, pages, shown, count, first } = list;
const filter = list.filter("which");
const which = [
  { value: "here", word: "this year's" },
  { value: "over", word: "archived" },
];
const name = ref("");
const { busy, trouble, act } = useAct();

async function make(): Promise<void> {
  const made = await act(() => post("/api/classes", undefined, { name: name.value }));
  if (made) await router.push(`/classes/${made.id}`);
}
</script>

<template>
  <AppBar />
  <main class="mx-auto max-w-6xl p-5 sm:p-6">
    <h1>Classes</h1>
    <StateNote
      v-if="isPending || error"
      class="mt-5"
      :loading="isPending"
      :error="error"
      :retry="() => refetch()"
    />
    <template v-else>
      <StateNote v-if="!rows.length" class="mt-5"
        >No classes yet. Create one, then share its code or add a roster.</StateNote
      >
      <template v-else>
        <FindBar
          v-model="find"
          label="Find a class"
          :count="count"
          one="class"
          many="classes"
          :none="
            filter === 'over'
              ? find
                ? 'Nothing found among archived classes. Try fewer words.'
                : 'No class is archived.'
              : 'Nothing found. Try fewer words, or look under Archived.'
          "
        >
          <ChoiceList v-model="filter" label="Which classes" small :choices="which" />
        </FindBar>
        <ul class="mt-4 grid gap-4 sm:grid-cols-2 lg:grid-cols-3">
          <li v-for="c in shown" :key="c.id" class="min-w-0">
            <RouterLink
              :to="`/classes/${c.id}`"
              class="paper block p-5 text-ink no-underline hover:border-teal"
            >
              <span class="block truncate text-lg font-semibold" :title="c.name">{{ c.name }}</span>
              <span class="text-ink2">
                {{ c.students }} {{ c.students === 1 ? "student" : "students" }} ·
                {{ c.archived ? "archived" : `code ${c.join_code}` }}
              </span>
            </RouterLink>
          </li>
        </ul>
        <PageSteps v-model="page" :first="first" :shown="shown.length" :count="count" :pages="pages" />
      </template>
      <form class="paper mt-6 flex max-w-lg flex-wrap items-end gap-3 p-5" @submit.prevent="make">
        <label class="flex-1 text-sm font-semibold">
          New class
          <input
            v-model="name"
            class="field mt-1 font-normal"
            maxlength="120"
            required
            placeholder="its name"
          />
        </label>
        <button class="press" :disabled="busy">Create class</button>
        <p v-if="trouble" role="alert" class="w-full text-pencil">{{ trouble }}</p>
      </form>
    </template>
  </main>
</template>
