<script setup lang="ts">
/** What each key does in Marking. */
import { useLetterKeys } from "../../useKeys";
import DialogSheet from "../DialogSheet.vue";

defineProps<{ open: boolean }>();
const emit = defineEmits<{ close: [] }>();
const letters = useLetterKeys();
const keys: [string, string][] = [
  ["↓ ↑", "next and previous finding"],
  ["→ ←", "next and previous student"],
  ["N", "next student whose marks are not returned"],
  ["O", "change the verdict of the selected finding"],
  ["C", "comment"],
  ["R", "return the marks"],
  ["Ctrl+Z", "undo"],
  ["Shift+Ctrl+Z", "redo"],
  ["K B D", "show the key, both, the drawing"],
  ["L", "layers side by side"],
  ["F", "fit the drawing"],
  ["H", "what was done, by whom"],
  ["Esc", "deselect the finding"],
];
</script>

<template>
  <DialogSheet :open="open" title="Keys" @close="emit('close')">
    <dl class="mt-3 grid grid-cols-[8rem_1fr] gap-x-4 gap-y-1.5">
      <template v-for="[key, does] in keys" :key="key">
        <dt class="text-right">
          <kbd class="keycap">{{ key }}</kbd>
        </dt>
        <dd>{{ does }}</dd>
      </template>
    </dl>
    <label class="mt-4 flex items-start gap-2">
      <input v-model="letters" type="checkbox" class="mt-1.5 accent-teal" />
      <span>Single letters work as shortcuts. Switch them off if they get in the way of speech input.</span>
    </label>
    <div class="mt-4 flex justify-end"><button class="press" @click="emit('close')">Close</button></div>
  </DialogSheet>
</template>
