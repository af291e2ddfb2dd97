<script setup lang="ts">
import { useQuery } from "@tanstack/vue-query";
import { computed } from "vue";
import { useRoute, useRouter } from "vue-router";
import { get } from "../api/client";
import AppBar from "../components/AppBar.vue";
import PageSteps from "../components/PageSteps.vue";
import StateNote from "../components/StateNote.vue";
import { when } from "../times";
import { keys } from "../queries";

const PER = 50;
const route = useRoute();
const router = useRouter();
const one = (name: string) => (typeof route.query[name] === "string" ? route.query[name] : undefined);
const asked = computed(() => ({ class: one("class"), exercise: one("exercise"), page: one("page") ?? "1" }));
const { data, isPending, error, refetch } = useQuery({
  queryKey: computed(() => keys.record(asked.value)),
  queryFn: () => get("/api/record", undefined, asked.value),
});
const page = computed({
  get: () => data.value?.page ?? 1,
  set: (value) => void router.replace({ query: { ...route.query, page: String(value) } }),
});
const about = computed(() =>
  asked.value.class ? "this class" : asked.value.exercise ? "this exercise" : "your classes and exercises",
);
</script>

<template>
  <AppBar />
  <main class="mx-auto max-w-4xl p-5 sm:p-6">
    <h1>Record</h1>
    <p class="text-ink2">
      What was done to {{ about }}: issuing, dates, allowances, names, deletions. Entries are never changed.
      Changes of marks are listed with each drawing.
    </p>
    <StateNote
      v-if="isPending || error"
      class="mt-5"
      :loading="isPending"
      :error="error"
      :retry="() => refetch()"
    />
    <StateNote v-else-if="data && !data.entries.length" class="mt-5">Nothing yet.</StateNote>
    <template v-else-if="data">
      <ol class="paper mt-5 divide-y divide-rule">
        <li v-for="e in data.entries" :key="e.id" class="grid gap-x-4 px-4 py-2.5 sm:grid-cols-[12rem_1fr]">
          <time :datetime="e.at" class="text-ink2">{{ when(e.at) }}</time>
          <span class="min-w-0 break-words">{{ e.says }}</span>
        </li>
      </ol>
      <PageSteps
        v-model="page"
        :first="(data.page - 1) * PER"
        :shown="data.entries.length"
        :count="data.of"
        :pages="data.pages"
      />
    </template>
    <p v-if="asked.class || asked.exercise" class="mt-4 text-sm">
      <RouterLink to="/record">The whole record</RouterLink>
    </p>
  </main>
</template>
