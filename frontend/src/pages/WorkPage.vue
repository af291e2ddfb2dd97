<script setup lang="ts">
import { useQuery } from "@tanstack/vue-query";
import { computed, ref } from "vue";
import { get, post, saysOf, type Schemas } from "../api/client";
import AppBar from "../components/AppBar.vue";
import StateNote from "../components/StateNote.vue";
import { away, marks, when } from "../numbers";

const { data, isPending, error, refetch } = useQuery({
  queryKey: ["work"],
  queryFn: () => get<Schemas["WorkRows"]>("/work"),
  refetchInterval: (query) => (query.state.data?.work.some((w) => w.waiting) ? 1500 : false),
});
const { data: asked, refetch: askAgain } = useQuery({
  queryKey: ["asked"],
  queryFn: () => get<Schemas["AskedRows"]>("/asked"),
});
const said = ref("");
async function answer(class_id: number, join: boolean): Promise<void> {
  said.value = await post<Schemas["Done"]>(`/asked/${class_id}`, { join }).then((d) => d.says, saysOf);
  await Promise.all([askAgain(), refetch()]);
}
const groups = computed(() => {
  const all = data.value?.work ?? [];
  return [
    { name: "Open", rows: all.filter((w) => !w.past_due && !w.left) },
    { name: "Past their date", rows: all.filter((w) => w.past_due && !w.left) },
    { name: "From classes you left", rows: all.filter((w) => w.left) },
  ].filter((g) => g.rows.length);
});
</script>

<template>
  <AppBar />
  <main class="mx-auto max-w-6xl p-5 sm:p-6">
    <div class="flex items-end justify-between gap-4">
      <h1>My work</h1>
      <RouterLink to="/join" class="press-quiet no-underline">Join a class</RouterLink>
    </div>
    <section v-for="a in asked?.asked" :key="a.class_id" class="paper mt-5 flex flex-wrap items-center gap-3 px-5 py-3">
      <p class="flex-1">
        <b>{{ a.instructor }}</b> asks you to join <b>{{ a.class_name }}</b>. Your name and what you hand in there are
        seen then.
      </p>
      <button class="press-quiet" @click="answer(a.class_id, false)">No</button>
      <button class="press" @click="answer(a.class_id, true)">Join</button>
    </section>
    <p v-if="said" role="status" class="mt-3">{{ said }}</p>
    <StateNote v-if="isPending || error" class="mt-5" :loading="isPending" :error="error" :retry="() => refetch()" />
    <StateNote v-else-if="!groups.length" class="mt-5">
      Nothing to draw yet. When your instructor issues an exercise, it appears here with its sheet.
    </StateNote>
    <section v-for="g in groups" v-else :key="g.name" class="mt-6">
      <h2 class="mb-2">{{ g.name }}</h2>
      <ul class="grid gap-4 sm:grid-cols-2 lg:grid-cols-3">
        <li v-for="w in g.rows" :key="w.id">
          <RouterLink :to="`/work/${w.id}`" class="paper block overflow-hidden text-ink no-underline hover:border-teal">
            <img
              :src="`/api/work/${w.id}/sheet.png`"
              :alt="`Sheet of ${w.title}`"
              class="aspect-[297/180] w-full border-b border-rule bg-white object-cover object-top"
              loading="lazy"
            />
            <span class="block px-4 py-3">
              <span class="flex items-baseline justify-between gap-2">
                <b class="truncate">{{ w.title }}</b>
                <b v-if="w.best !== null" class="whitespace-nowrap">{{ marks(w.best ?? 0) }}</b>
              </span>
              <span class="block text-sm text-ink2" :title="when(w.due_at)">
                due {{ away(w.due_at) }} ·
                <template v-if="w.waiting">being marked</template>
                <template v-else-if="w.left">you are no longer in {{ w.class_name }}</template>
                <template v-else-if="!w.handed_in">not handed in</template>
                <template v-else>{{ w.tries_left }} {{ w.tries_left === 1 ? "try" : "tries" }} left</template>
              </span>
            </span>
          </RouterLink>
        </li>
      </ul>
    </section>
  </main>
</template>
