<script setup lang="ts">
import { useQuery } from "@tanstack/vue-query";
import { computed } from "vue";
import { get } from "../api/client";
import AppBar from "../components/AppBar.vue";
import FindField from "../components/FindField.vue";
import IssueTable from "../components/IssueTable.vue";
import PageSteps from "../components/PageSteps.vue";
import StateNote from "../components/StateNote.vue";
import { marks } from "../numbers";
import { away } from "../times";
import { useListing } from "../useListing";
import { keys } from "../queries";

const { data, isPending, error, refetch } = useQuery({
  queryKey: keys.desk,
  queryFn: () => get("/api/desk"),
  refetchInterval: 15000,
});
const PER = 12;
const issues = computed(() => data.value?.issues ?? []);
const { find, page, pages, shown, count, first } = useListing(issues, {
  textOf: (i) => `${i.title} ${i.class_name}`,
  per: PER,
});
const most = computed(() => Math.max(1, ...(data.value?.causes ?? []).map((c) => c.students)));
</script>

<template>
  <AppBar />
  <main class="mx-auto max-w-6xl p-5 sm:p-6">
    <div class="flex items-end justify-between gap-4">
      <h1>Desk</h1>
      <RouterLink to="/exercises?new=1" class="press no-underline">New exercise</RouterLink>
    </div>
    <StateNote
      v-if="isPending || error"
      class="mt-5"
      :loading="isPending"
      :error="error"
      :retry="() => refetch()"
    />
    <StateNote v-else-if="data && !data.issues.length" class="mt-5">
      Nothing is issued yet. Create an exercise from a key, decide what counts, and issue it to a class.
      Drawings that students hand in appear here.
    </StateNote>
    <div
      v-else-if="data"
      class="mt-5 grid grid-cols-[minmax(0,1fr)] gap-6 lg:grid-cols-[minmax(0,1fr)_19rem]"
    >
      <div>
        <div class="mb-2 flex flex-wrap items-center gap-3">
          <h2>Issued</h2>
          <FindField v-if="issues.length > PER" v-model="find" label="Find an exercise or class" />
        </div>
        <StateNote v-if="!shown.length">Nothing found. Try fewer words.</StateNote>
        <IssueTable v-else :issues="shown" />
        <PageSteps v-model="page" :first="first" :shown="shown.length" :count="count" :pages="pages" />
      </div>
      <div class="space-y-6">
        <section>
          <h2 class="mb-2">Most frequent slips</h2>
          <div class="paper px-4 py-2">
            <p v-if="!data.causes.length" class="py-2 text-ink2">None so far.</p>
            <div v-for="c in data.causes" :key="c.code" class="py-1.5">
              <div class="flex justify-between gap-3">
                <span>{{ c.title }}</span><span class="font-semibold">{{ c.students }}</span>
              </div>
              <div
                class="mt-0.5 h-1 rounded bg-pencil/70"
                :style="{ width: `${(c.students / most) * 100}%` }"
              ></div>
            </div>
          </div>
        </section>
        <section>
          <h2 class="mb-2">Handed in recently</h2>
          <ul class="paper divide-y divide-rule">
            <li v-for="a in data.latest" :key="a.attempt_id">
              <RouterLink
                :to="`/marking/${a.attempt_id}`"
                class="block px-4 py-2 text-ink no-underline hover:bg-teal-soft"
              >
                <span class="flex justify-between gap-2">
                  <span class="truncate font-semibold">{{ a.student }}</span>
                  <span v-if="a.earned !== null">{{ marks(a.earned ?? 0) }}</span>
                  <span v-else class="text-ink2">{{ a.state === "failed" ? "not marked" : "waiting" }}</span>
                </span>
                <span class="block truncate text-sm text-ink2"
                  >{{ a.title }} · {{ away(a.handed_in_at) }}</span
                >
              </RouterLink>
            </li>
          </ul>
        </section>
      </div>
    </div>
  </main>
</template>
