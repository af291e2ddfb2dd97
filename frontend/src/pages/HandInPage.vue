<script setup lang="ts">
import { useQuery } from "@tanstack/vue-query";
import { useRoute, useRouter } from "vue-router";
import { get } from "../api/client";
import AppBar from "../components/AppBar.vue";
import { useTitle } from "../title";
import FileDrop from "../components/FileDrop.vue";
import StateNote from "../components/StateNote.vue";
import { when } from "../times";
import { useUpload } from "../useUpload";
import { keys } from "../queries";

const id = Number(useRoute().params.id);
const router = useRouter();
const { data, isPending, error, refetch } = useQuery({
  queryKey: keys.results(id),
  queryFn: () => get("/api/issues/{issue_id}/results", { issue_id: id }),
});
const { busy, share, trouble, send, stop } = useUpload();
async function take(files: File[]): Promise<void> {
  const form = new FormData();
  files.forEach((f) => form.append("files", f));
  const batch = await send("/api/issues/{issue_id}/batches", { issue_id: id }, form);
  if (batch) await router.push(`/batches/${batch.id}`);
}
useTitle(() => data.value && `${data.value.issue.title}, ${data.value.issue.class_name}`);
</script>

<template>
  <AppBar />
  <main class="mx-auto max-w-3xl p-5 sm:p-6">
    <StateNote v-if="isPending || error" :loading="isPending" :error="error" :retry="() => refetch()" />
    <template v-else-if="data">
      <h1>Hand in for {{ data.issue.class_name }}</h1>
      <p class="text-ink2">
        <RouterLink :to="`/issues/${id}`">{{ data.issue.title }}</RouterLink> · due
        {{ when(data.issue.due_at) }}
      </p>
      <FileDrop
        class="mt-5 py-8"
        label="Choose a ZIP, or all the drawings"
        says="or drop them here: DXF, SVG or steps, up to 400 files and 96 MB"
        multiple
        :busy="busy"
        :share="share"
        accept=".zip,.dxf,.svg,.txt,.json,application/zip"
        @files="take"
        @stop="stop"
      />
      <p v-if="trouble" role="alert" class="mt-3 text-pencil">{{ trouble }} Nothing was handed in.</p>
      <div class="mt-5 space-y-2 text-ink2">
        <p>
          Each drawing is matched to its student by the file name, the folder, or the text in its title block.
          One table asks you about doubtful ones. Nothing is handed in before you confirm.
        </p>
        <p v-for="b in data.batches" :key="b.id">
          A hand-in of {{ when(b.created_at) }} still has {{ b.left }} of {{ b.of }} files.
          <RouterLink :to="`/batches/${b.id}`">Continue</RouterLink>
        </p>
      </div>
    </template>
  </main>
</template>
