<script setup lang="ts">
/** Opens a file on the board, chosen or dropped anywhere on the page; asks before another list goes. */
import { useEventListener } from "@vueuse/core";
import { ref } from "vue";
import { OPENED, type OpeningState } from "../../board/useOpening";
import AskDialog from "../AskDialog.vue";
import { many } from "../../counted";

const props = defineProps<{ opening: OpeningState; steps: number }>();
const { reading, instead, open, replace } = props.opening;
const field = ref<HTMLInputElement | null>(null);
const over = ref(false);

function take(files: FileList | null | undefined): void {
  const file = files?.[0];
  if (file) void open(file);
}
function chosen(e: Event): void {
  const input = e.target as HTMLInputElement;
  take(input.files);
  input.value = "";
}
const holdsFiles = (e: DragEvent) => e.dataTransfer?.types.includes("Files");
useEventListener(window, "dragover", (e: DragEvent) => {
  if (!holdsFiles(e)) return;
  e.preventDefault();
  over.value = true;
});
useEventListener(window, "dragleave", (e: DragEvent) => {
  if (!e.relatedTarget) over.value = false;
});
useEventListener(window, "drop", (e: DragEvent) => {
  if (!holdsFiles(e)) return;
  e.preventDefault();
  over.value = false;
  take(e.dataTransfer?.files);
});
</script>

<template>
  <button class="press-quiet" :disabled="!!reading" @click="field?.click()">
    {{ reading ? "Reading …" : "Open a file" }}
  </button>
  <input
    ref="field"
    type="file"
    class="hidden"
    :accept="OPENED"
    aria-label="Open a file: DXF, SVG, a list of steps, or a picture to trace"
    @change="chosen"
  />
  <div
    v-if="over"
    class="pointer-events-none fixed inset-4 z-40 flex items-center justify-center rounded-lg border-4 border-dashed border-teal bg-white/80 text-xl font-semibold text-teal"
    aria-hidden="true"
  >
    Drop it here. A drawing is added, a list of steps opened, a picture put under the drawing to trace.
  </div>
  <AskDialog
    v-if="instead"
    :open="true"
    :title="`Replace your ${many(steps, 'step')}?`"
    word="Replace steps"
    @yes="instead && replace(instead.document, instead.name)"
    @close="instead = null"
  >
    <p>“{{ instead.name }}” has {{ many(instead.steps, "step") }}. You can undo this.</p>
  </AskDialog>
</template>
