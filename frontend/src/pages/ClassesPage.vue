<script setup lang="ts">
import { useQuery } from "@tanstack/vue-query";
import { ref } from "vue";
import { useRouter } from "vue-router";
import { get, post, saysOf, type Schemas } from "../api/client";
import AppBar from "../components/AppBar.vue";
import StateNote from "../components/StateNote.vue";

const router = useRouter();
const { data, isPending, error, refetch } = useQuery({
  queryKey: ["classes"],
  queryFn: () => get<Schemas["ClassRows"]>("/classes"),
});
const name = ref("");
const trouble = ref("");

async function make(): Promise<void> {
  trouble.value = "";
  try {
    const made = await post<Schemas["ClassRow"]>("/classes", { name: name.value });
    await router.push(`/classes/${made.id}`);
  } catch (why) {
    trouble.value = saysOf(why);
  }
}
</script>

<template>
  <AppBar />
  <main class="mx-auto max-w-6xl p-5 sm:p-6">
    <h1>Classes</h1>
    <StateNote v-if="isPending || error" class="mt-5" :loading="isPending" :error="error" :retry="() => refetch()" />
    <template v-else-if="data">
      <StateNote v-if="!data.classes.length" class="mt-5"
        >No classes yet. Make one, then share its code or take in a roster.</StateNote
      >
      <ul v-else class="mt-5 grid gap-4 sm:grid-cols-2 lg:grid-cols-3">
        <li v-for="c in data.classes" :key="c.id">
          <RouterLink :to="`/classes/${c.id}`" class="paper block p-5 text-ink no-underline hover:border-teal">
            <span class="block text-lg font-semibold">{{ c.name }}</span>
            <span class="text-ink2">{{ c.students }} students · code {{ c.join_code }}</span>
          </RouterLink>
        </li>
      </ul>
      <form class="paper mt-6 flex max-w-lg flex-wrap items-end gap-3 p-5" @submit.prevent="make">
        <label class="flex-1 text-sm font-semibold">
          New class
          <input v-model="name" class="field mt-1 font-normal" maxlength="120" required placeholder="its name" />
        </label>
        <button class="press">Make it</button>
        <p v-if="trouble" role="alert" class="w-full text-pencil">{{ trouble }}</p>
      </form>
    </template>
  </main>
</template>
