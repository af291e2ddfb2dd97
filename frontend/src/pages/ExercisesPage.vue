<script setup lang="ts">
import { useQuery } from "@tanstack/vue-query";
import { ref } from "vue";
import { useRoute, useRouter } from "vue-router";
import { fileForm, get, post, saysOf, type Schemas } from "../api/client";
import AppBar from "../components/AppBar.vue";
import DialogSheet from "../components/DialogSheet.vue";
import FileDrop from "../components/FileDrop.vue";
import StateNote from "../components/StateNote.vue";
import { away } from "../numbers";

const route = useRoute();
const router = useRouter();
const { data, isPending, error, refetch } = useQuery({
  queryKey: ["exercises"],
  queryFn: () => get<Schemas["ExerciseRows"]>("/exercises"),
});
const making = ref(route.query.new === "1");
const title = ref("");
const text = ref("");
const file = ref<File | null>(null);
const busy = ref(false);
const trouble = ref("");

function take(chosen: File): void {
  file.value = chosen;
  trouble.value = "";
  if (!title.value) title.value = chosen.name.replace(/\.[^.]*$/, "").replace(/[_-]+/g, " ");
}
async function make(): Promise<void> {
  if (!file.value) return;
  busy.value = true;
  trouble.value = "";
  try {
    const made = await post<Schemas["ExercisePage"]>(
      "/exercises",
      fileForm(file.value, { title: title.value, text: text.value }),
    );
    await router.push(`/exercises/${made.revision_id}`);
  } catch (why) {
    trouble.value = saysOf(why);
  } finally {
    busy.value = false;
  }
}
</script>

<template>
  <AppBar />
  <main class="mx-auto max-w-6xl p-5 sm:p-6">
    <div class="flex items-end justify-between gap-4">
      <h1>Exercises</h1>
      <button class="press" @click="making = true">New exercise</button>
    </div>
    <StateNote v-if="isPending || error" class="mt-5" :loading="isPending" :error="error" :retry="() => refetch()" />
    <StateNote v-else-if="data && !data.exercises.length" class="mt-5">
      No exercises yet. Begin with a key: the drawing as it should be, as a DXF file.
    </StateNote>
    <ul v-else-if="data" class="mt-5 grid gap-4 sm:grid-cols-2 lg:grid-cols-3">
      <li v-for="e in data.exercises" :key="e.exercise_id">
        <RouterLink
          :to="`/exercises/${e.revision_id}`"
          class="paper block overflow-hidden text-ink no-underline hover:border-teal"
        >
          <img
            :src="`/api/exercises/${e.revision_id}/sheet.png`"
            :alt="`Sheet of ${e.title}`"
            class="aspect-[297/190] w-full border-b border-rule bg-white object-cover object-top"
            loading="lazy"
          />
          <span class="block px-4 py-3">
            <span class="block truncate font-semibold">{{ e.title }}</span>
            <span class="block truncate text-sm text-ink2">
              {{ e.classes.length ? `issued to ${e.classes.join(", ")}` : "not issued" }} · changed
              {{ away(e.changed_at) }}
            </span>
          </span>
        </RouterLink>
      </li>
    </ul>
    <DialogSheet :open="making" title="New exercise" @close="making = false">
      <form class="mt-4 space-y-3" @submit.prevent="make">
        <FileDrop
          :label="file ? file.name : 'Choose the key drawing'"
          accept=".dxf"
          says="a DXF file of any version; drop it here or choose it"
          @file="take"
        />
        <div>
          <label class="block text-sm font-semibold" for="title">Title</label>
          <input id="title" v-model="title" class="field mt-1" maxlength="160" required />
        </div>
        <div>
          <label class="block text-sm font-semibold" for="text">What the students are told</label>
          <textarea id="text" v-model="text" class="field mt-1" rows="3"></textarea>
        </div>
        <p v-if="trouble" role="alert" class="text-pencil">{{ trouble }}</p>
        <div class="flex justify-end gap-2 pt-2">
          <button type="button" class="press-quiet" @click="making = false">Cancel</button>
          <button class="press" :disabled="busy || !file">{{ busy ? "Reading the key …" : "Make it" }}</button>
        </div>
      </form>
    </DialogSheet>
  </main>
</template>
