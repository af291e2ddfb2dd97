<script setup lang="ts">
import { useQuery } from "@tanstack/vue-query";
import { ref } from "vue";
import { useRoute, useRouter } from "vue-router";
import { get, post, saysOf, type Schemas } from "../api/client";
import AppBar from "../components/AppBar.vue";
import FileDrop from "../components/FileDrop.vue";
import StateNote from "../components/StateNote.vue";
import { when } from "../numbers";

const id = Number(useRoute().params.id);
const router = useRouter();
const { data, isPending, error, refetch } = useQuery({
  queryKey: ["results", id],
  queryFn: () => get<Schemas["ClassResults"]>(`/issues/${id}/results`),
});
const busy = ref(false);
const trouble = ref("");
async function take(files: File[]): Promise<void> {
  busy.value = true;
  trouble.value = "";
  const form = new FormData();
  files.forEach((f) => form.append("files", f));
  try {
    const batch = await post<Schemas["BatchOut"]>(`/issues/${id}/batches`, form);
    await router.push(`/batches/${batch.id}`);
  } catch (why) {
    trouble.value = saysOf(why);
  } finally {
    busy.value = false;
  }
}
</script>

<template>
  <AppBar />
  <main class="mx-auto max-w-3xl p-5 sm:p-6">
    <StateNote v-if="isPending || error" :loading="isPending" :error="error" :retry="() => refetch()" />
    <template v-else-if="data">
      <h1>Hand in for {{ data.issue.class_name }}</h1>
      <p class="text-ink2">
        <RouterLink :to="`/issues/${id}`">{{ data.issue.title }}</RouterLink> · due {{ when(data.issue.due_at) }}
      </p>
      <FileDrop
        class="mt-5 !py-14"
        label="Choose a ZIP, or all the drawings"
        says="or drop them here: DXF or SVG, up to 400 files and 96 MB"
        multiple
        :busy="busy"
        accept=".zip,.dxf,.svg,application/zip"
        @files="take"
      />
      <p v-if="trouble" role="alert" class="mt-3 text-pencil">{{ trouble }} Nothing was handed in.</p>
      <div class="mt-5 space-y-2 text-ink2">
        <p>
          Each drawing is matched to its student by the file name, the folder, or what stands in its title block. What
          is doubtful you are asked in one table. Nothing is handed in before you say so.
        </p>
        <p v-for="b in data.batches" :key="b.id">
          A hand-in of {{ when(b.created_at) }} still has {{ b.left }} of {{ b.of }} files.
          <RouterLink :to="`/batches/${b.id}`">Go on with it</RouterLink>
        </p>
      </div>
    </template>
  </main>
</template>
