<script setup lang="ts">
/** Who did what to the marks of an attempt, newest first. */
import type { Schemas } from "../../api/client";
import { when } from "../../times";
import DialogSheet from "../DialogSheet.vue";

defineProps<{ open: boolean; rows: Schemas["HistoryRow"][]; busy: boolean; returned: boolean }>();
const emit = defineEmits<{ close: []; undo: [act: number]; takeBack: [] }>();
</script>

<template>
  <DialogSheet :open="open" title="Record" wide @close="emit('close')">
    <ol
      tabindex="0"
      aria-label="What was done"
      class="paper mt-3 max-h-[60vh] divide-y divide-rule overflow-y-auto"
    >
      <li v-for="(h, n) in rows" :key="n" class="flex items-start gap-4 px-4 py-2">
        <span class="w-40 shrink-0 text-sm text-ink2">{{ when(h.at) }}<br />{{ h.who }}</span>
        <span class="flex-1 break-words" :class="h.stands ? '' : 'text-ink2 line-through'">{{ h.says }}</span>
        <button
          v-if="h.act && h.stands && !h.undoes"
          class="text-sm whitespace-nowrap text-teal underline"
          :disabled="busy"
          @click="emit('undo', h.act)"
        >
          Undo
        </button>
      </li>
    </ol>
    <div class="mt-4 flex justify-end gap-2">
      <button v-if="returned" class="press-quiet" :disabled="busy" @click="emit('takeBack')">
        Recall marks
      </button>
      <button class="press" @click="emit('close')">Close</button>
    </div>
  </DialogSheet>
</template>
