<script setup lang="ts">
/** The drawings of an exercise beside its key: the start drawing that students receive, and further keys that are accepted. */
import { ref } from "vue";
import { fileForm, remove, saysOf, upload, type Schemas } from "../api/client";

type Page = Schemas["ExercisePage"];
const props = defineProps<{ page: Page }>();
const emit = defineEmits<{ changed: [page: Page] }>();
const busy = ref(false);
const trouble = ref("");
const parts = [
  {
    part: "start",
    word: "Start drawing",
    says: "What students begin with. Its objects are not marked. What counts is proposed again.",
  },
  {
    part: "key",
    word: "Other keys",
    says: "Also accepted. Each drawing is compared with the key it fits best.",
  },
] as const;
const at = () => ({ revision_id: props.page.revision_id });
const of = (part: string) => props.page.files.filter((f) => f.part === part);

async function act(work: () => Promise<Page>): Promise<void> {
  busy.value = true;
  trouble.value = "";
  try {
    emit("changed", await work());
  } catch (why) {
    trouble.value = saysOf(why);
  } finally {
    busy.value = false;
  }
}
function add(part: string, e: Event): void {
  const input = e.target as HTMLInputElement;
  const file = input.files?.[0];
  if (file) void act(() => upload("/api/exercises/{revision_id}/files", at(), fileForm(file, { part })));
  input.value = "";
}
const drop = (id: number) =>
  act(() => remove("/api/exercises/{revision_id}/files/{file_id}", { ...at(), file_id: id }));
</script>

<template>
  <div class="space-y-3">
    <div v-for="p in parts" :key="p.part">
      <p class="text-sm font-semibold">{{ p.word }}</p>
      <p class="text-sm text-ink2">{{ p.says }}</p>
      <ul class="mt-1 space-y-1 text-sm">
        <li v-for="f in of(p.part)" :key="f.id" class="flex items-center gap-3">
          <a :href="`/api/exercises/${page.revision_id}/files/${f.id}`" class="min-w-0 truncate">{{
            f.name
          }}</a>
          <button class="text-teal underline" :disabled="busy" @click="drop(f.id)">Remove</button>
        </li>
      </ul>
      <label
        class="press-quiet mt-1 cursor-pointer !px-2.5 !py-1 text-sm focus-within:outline-2 focus-within:outline-teal"
      >
        <input
          type="file"
          class="sr-only"
          accept=".dxf,.svg,.txt,.json"
          :disabled="busy"
          :aria-label="`Choose: ${p.word}`"
          @change="(e) => add(p.part, e)"
        />
        {{
          busy
            ? "Reading …"
            : p.part === "start" && of("start").length
              ? "Choose another"
              : "Choose a drawing"
        }}
      </label>
    </div>
    <p v-if="trouble" role="alert" class="text-sm text-pencil">{{ trouble }}</p>
  </div>
</template>
