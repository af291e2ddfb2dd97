<script setup lang="ts">
/** What each key does in Marking. */
import DialogSheet from "../DialogSheet.vue";

defineProps<{ open: boolean }>();
const emit = defineEmits<{ close: [] }>();
const keys: [string, string][] = [
  ["↓ ↑", "next and previous finding"],
  ["→ ←", "next and previous student"],
  ["N", "next student whose marks are not returned"],
  ["O", "another verdict for the chosen finding"],
  ["C", "comment"],
  ["R", "return the marks"],
  ["U", "take back what was last done"],
  ["shift U", "bring it back"],
  ["K B D", "show the key, both, the drawing"],
  ["L", "layers side by side"],
  ["F", "fit the drawing"],
  ["H", "what was done, by whom"],
  ["esc", "let go of the chosen finding"],
];
</script>

<template>
  <DialogSheet :open="open" title="Keys" @close="emit('close')">
    <dl class="mt-3 grid grid-cols-[6rem_1fr] gap-x-4 gap-y-1.5">
      <template v-for="[key, does] in keys" :key="key">
        <dt class="text-right">
          <kbd class="keycap">{{ key }}</kbd>
        </dt>
        <dd>{{ does }}</dd>
      </template>
    </dl>
    <div class="mt-4 flex justify-end"><button class="press" @click="emit('close')">Close</button></div>
  </DialogSheet>
</template>
