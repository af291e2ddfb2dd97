<script setup lang="ts">
/** Takes one file, or with `multiple` several, by choosing or dropping. */
import { ref } from "vue";

defineProps<{ label: string; accept?: string; busy?: boolean; says?: string; multiple?: boolean }>();
const emit = defineEmits<{ file: [file: File]; files: [files: File[]] }>();
const over = ref(false);

function take(files: FileList | null | undefined): void {
  const all = [...(files ?? [])];
  if (!all.length) return;
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
  <label
    class="flex cursor-pointer flex-col items-center justify-center rounded-lg border-2 border-dashed px-4 py-6 text-center focus-within:outline-2 focus-within:outline-teal"
    :class="over ? 'border-teal bg-teal-soft' : 'border-[#a9a596] bg-white'"
    @dragover.prevent="over = true"
    @dragleave="over = false"
    @drop.prevent="dropped"
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
    <span class="font-semibold text-teal">{{ busy ? "Reading …" : label }}</span>
    <span class="mt-1 text-sm text-ink2">{{ says ?? "or drop it here" }}</span>
  </label>
</template>
