<script setup lang="ts">
/** Sign-in cards for a class to be printed and cut apart: whoever has no password yet finds on theirs where to go and with which code. */
import { useQuery } from "@tanstack/vue-query";
import { computed } from "vue";
import { useRoute } from "vue-router";
import { get } from "../api/client";
import AppBar from "../components/AppBar.vue";
import { useTitle } from "../title";
import StateNote from "../components/StateNote.vue";
import { keys } from "../queries";

const id = Number(useRoute().params.id);
const { data, isPending, error, refetch } = useQuery({
  queryKey: keys.class(id),
  queryFn: () => get("/api/classes/{class_id}", { class_id: id }),
});
const slips = computed(() => data.value?.students.filter((s) => s.code) ?? []);
const where = `${location.origin}/first`;
const print = () => window.print();
useTitle(() => data.value?.name);
</script>

<template>
  <AppBar />
  <main class="mx-auto max-w-6xl p-5 sm:p-6 print:max-w-none print:p-0">
    <StateNote v-if="isPending || error" :loading="isPending" :error="error" :retry="() => refetch()" />
    <template v-else-if="data">
      <div class="flex flex-wrap items-end justify-between gap-4 print:hidden">
        <div>
          <h1>Sign-in cards for {{ data.name }}</h1>
          <p class="mt-1 text-ink2">
            One for each student who has a code to use yet.
            <RouterLink :to="`/classes/${id}`">Back to the class</RouterLink>
          </p>
        </div>
        <button v-if="slips.length" class="press" @click="print">Print</button>
      </div>
      <StateNote v-if="!slips.length" class="mt-5"
        >Every student of this class has chosen a password.</StateNote
      >
      <ul v-else class="mt-5 grid gap-3 sm:grid-cols-2 print:mt-0 print:grid-cols-2 print:gap-0">
        <li
          v-for="s in slips"
          :key="s.id"
          class="paper break-inside-avoid p-5 print:rounded-none print:border-dashed print:shadow-none"
        >
          <p class="font-bold">{{ s.name }}</p>
          <p class="text-sm text-ink2">
            {{ data.name }} · sign-in name <b class="text-ink">{{ s.sign_in }}</b>
          </p>
          <p class="mt-3 text-sm">
            Go to <b>{{ where }}</b> and enter
          </p>
          <p class="text-2xl font-bold tracking-wider">{{ s.code }}</p>
          <p class="text-sm text-ink2">Then choose a password. The code works once.</p>
        </li>
      </ul>
    </template>
  </main>
</template>
