<script setup lang="ts">
import { useQuery } from "@tanstack/vue-query";
import { computed, ref } from "vue";
import { get, post, saysOf, type Schemas } from "../api/client";
import AppBar from "../components/AppBar.vue";
import FindBar from "../components/FindBar.vue";
import PageSteps from "../components/PageSteps.vue";
import StateNote from "../components/StateNote.vue";
import { marks } from "../numbers";
import { dueWords, when } from "../times";
import { useListing } from "../useListing";
import { keys } from "../queries";

type Row = Schemas["WorkRow"];

const { data, isPending, error, refetch } = useQuery({
  queryKey: keys.work,
  queryFn: () => get("/api/work"),
  refetchInterval: (query) => (query.state.data?.work.some((w) => w.waiting) ? 1500 : false),
});
const { data: asked, refetch: askAgain } = useQuery({
  queryKey: keys.asked,
  queryFn: () => get("/api/asked"),
});
const said = ref("");
async function answer(class_id: number, join: boolean): Promise<void> {
  said.value = await post("/api/asked/{class_id}", { class_id }, { join }).then((d) => d.says, saysOf);
  await Promise.all([askAgain(), refetch()]);
}
const all = computed(() => data.value?.work ?? []);
const over = (w: Row) => w.past_due || (w.shut !== null && w.shut !== "no-tries");
const GROUPS: [string, (w: Row) => boolean][] = [
  ["Open", (w) => !w.left && !w.archived && !over(w)],
  ["Past the due date", (w) => !w.left && !w.archived && over(w)],
  ["From archived classes or classes you left", (w) => w.left || w.archived],
];
const inOrder = computed(() => GROUPS.flatMap(([, belongs]) => all.value.filter(belongs)));
const { find, page, pages, shown, count, first } = useListing(inOrder, {
  textOf: (w) => `${w.title} ${w.class_name}`,
  per: 18,
});
const groups = computed(() =>
  GROUPS.map(([name, belongs]) => ({ name, rows: shown.value.filter(belongs) })).filter((g) => g.rows.length),
);
</script>

<template>
  <AppBar />
  <main class="mx-auto max-w-6xl p-5 sm:p-6">
    <div class="flex items-end justify-between gap-4">
      <h1>My work</h1>
      <RouterLink to="/join" class="press-quiet no-underline">Join a class</RouterLink>
    </div>
    <section
      v-for="a in asked?.asked"
      :key="a.class_id"
      class="paper mt-5 flex flex-wrap items-center gap-3 px-5 py-3"
    >
      <p class="flex-1">
        <b>{{ a.instructor }}</b> asks you to join <b>{{ a.class_name }}</b>. Your instructor there then sees
        your name and your drawings.
      </p>
      <button class="press-quiet" @click="answer(a.class_id, false)">No</button>
      <button class="press" @click="answer(a.class_id, true)">Join</button>
    </section>
    <p v-if="said" role="status" class="mt-3">{{ said }}</p>
    <StateNote
      v-if="isPending || error"
      class="mt-5"
      :loading="isPending"
      :error="error"
      :retry="() => refetch()"
    />
    <StateNote v-else-if="!all.length" class="mt-5">
      Nothing to draw yet. When your instructor issues an exercise, it appears here with its sheet.
    </StateNote>
    <FindBar
      v-else-if="all.length > 6"
      v-model="find"
      label="Find an exercise"
      :count="count"
      one="exercise"
      many="exercises"
    />
    <section v-for="g in groups" :key="g.name" class="mt-6">
      <h2 class="mb-2">{{ g.name }}</h2>
      <ul class="grid gap-4 sm:grid-cols-2 lg:grid-cols-3">
        <li v-for="w in g.rows" :key="w.id" class="min-w-0">
          <RouterLink
            :to="`/work/${w.id}`"
            class="paper block overflow-hidden text-ink no-underline hover:border-teal"
          >
            <img
              :src="`/api/work/${w.id}/sheet.png`"
              :alt="`Sheet of ${w.title}`"
              class="aspect-[297/180] w-full border-b border-rule bg-white object-cover object-top"
              loading="lazy"
            />
            <span class="block px-4 py-3">
              <span class="flex items-baseline justify-between gap-2">
                <b class="truncate" :title="w.title">{{ w.title }}</b>
                <b v-if="w.best !== null" class="whitespace-nowrap">{{ marks(w.best ?? 0) }}</b>
              </span>
              <span class="block text-sm text-ink2">
                {{
                  w.closed_at && w.shut === "closed"
                    ? `closed ${when(w.closed_at)}`
                    : `due ${dueWords(w.due_at)}`
                }}
                ·
                <template v-if="w.waiting">being marked</template>
                <template v-else-if="w.left">you are no longer in {{ w.class_name }}</template>
                <template v-else-if="w.shut && w.shut !== 'no-tries'">closed</template>
                <template v-else-if="!w.handed_in">not handed in</template>
                <template v-else>{{ w.tries_left }} {{ w.tries_left === 1 ? "try" : "tries" }} left</template>
              </span>
              <span v-if="w.revision > 1 || w.allowed" class="block text-sm text-ink2">
                <template v-if="w.revision > 1">revision {{ w.revision }}</template>
                <template v-if="w.revision > 1 && w.allowed"> · </template>
                <template v-if="w.allowed">your own date or tries</template>
              </span>
            </span>
          </RouterLink>
        </li>
      </ul>
    </section>
    <PageSteps v-model="page" :first="first" :shown="shown.length" :count="count" :pages="pages" />
  </main>
</template>
