<script setup lang="ts">
/** The sheet of the exercise beside the drawing: as it is, or as large as its print where one looks closer. */
import { ref } from "vue";

defineProps<{ issue: number; title: string }>();
const close = ref(false);
</script>

<template>
  <aside
    class="paper flex min-h-0 min-w-0 flex-col"
    aria-label="The sheet of the exercise"
    data-exercise-sheet
  >
    <div
      class="min-h-0 flex-1 overflow-auto"
      tabindex="0"
      role="group"
      aria-label="The sheet, to be scrolled"
    >
      <img
        :src="`/api/work/${issue}/sheet.png`"
        :alt="`The sheet of ${title}`"
        :class="close ? 'max-w-none' : 'max-h-full w-full object-contain'"
        :style="close ? 'width: 200%' : ''"
      />
    </div>
    <p class="flex justify-end gap-4 border-t border-rule px-3 py-1 text-sm">
      <button class="text-teal underline" :aria-pressed="close" @click="close = !close">
        {{ close ? "all of it" : "larger" }}
      </button>
      <a :href="`/api/work/${issue}/sheet.png`" target="_blank">on its own</a>
    </p>
  </aside>
</template>
