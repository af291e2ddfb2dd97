<script setup lang="ts">
/** Takes one file, or with `multiple` several, by choosing or dropping; shows how far they are and offers to stop. */
import { computed, ref } from "vue";

const props = defineProps<{
  label: string;
  accept?: string;
  busy?: boolean;
  /** How much has gone, from 0 to 1, where it is known. */
  share?: number;
  says?: string;
  multiple?: boolean;
}>();
const emit = defineEmits<{ file: [file: File]; files: [files: File[]]; stop: [] }>();
const over = ref(false);
const word = computed(() => {
  if (!props.busy) return props.label;
  return props.share !== undefined && props.share < 1
    ? `Sending … ${Math.floor(props.share * 100)} %`
    : "Reading …";
});

function take(files: FileList | null | undefined): void {
  const all = [...(files ?? [])];
  if (!all.length || props.busy) return;
  if (all[0]) emit("file", all[0]);
  emit("files", all);
}
function chosen(e: Event): void {
  const input = e.target as HTMLInputElement;
  take(input.files);
  input.value = "";
}
function dropped(e: DragEvent): void {
  over.value = false;
  take(e.dataTransfer?.files);
}
</script>

<template>
  <div
    class="rounded-lg border-2 border-dashed focus-within:outline-2 focus-within:outline-teal"
    :class="over ? 'border-teal bg-teal-soft' : 'border-edge bg-white'"
    @dragover.prevent="over = true"
    @dragleave="over = false"
    @drop.prevent="dropped"
  >
    <label
      class="flex flex-col items-center justify-center px-4 py-6 text-center"
      :class="!busy && 'cursor-pointer'"
    >
      <input
        type="file"
        class="sr-only"
        :accept="accept"
        :multiple="multiple"
        :disabled="busy"
        :aria-label="label"
        @change="chosen"
      />
      <span class="max-w-full font-semibold break-words text-teal" role="status">{{ word }}</span>
      <progress
        v-if="busy"
        class="mt-2 h-1.5 w-full max-w-56 accent-teal"
        :value="share !== undefined && share < 1 ? share : undefined"
        aria-label="How far the files are"
      ></progress>
      <span v-else class="mt-1 text-sm text-ink2">{{ says ?? "or drop it here" }}</span>
    </label>
    <p v-if="busy && share !== undefined" class="pb-4 text-center">
      <button type="button" class="text-sm text-teal underline" @click="emit('stop')">Stop</button>
    </p>
  </div>
</template>
