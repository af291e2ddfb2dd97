<script setup lang="ts">
/** Takes one file by choosing or dropping it. */
import { ref } from "vue";

defineProps<{ label: string; accept?: string; busy?: boolean; says?: string }>();
const emit = defineEmits<{ file: [file: File] }>();
const over = ref(false);

function chosen(e: Event): void {
  const input = e.target as HTMLInputElement;
  const file = input.files?.[0];
  if (file) emit("file", file);
  input.value = "";
}
function dropped(e: DragEvent): void {
  over.value = false;
  const file = e.dataTransfer?.files[0];
  if (file) emit("file", file);
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
    <input type="file" class="sr-only" :accept="accept" :disabled="busy" :aria-label="label" @change="chosen" />
    <span class="font-semibold text-teal">{{ busy ? "Reading the file …" : label }}</span>
    <span class="mt-1 text-sm text-ink2">{{ says ?? "or drop it here" }}</span>
  </label>
</template>
