<script setup lang="ts">
/** Exercise sheet beside the drawing: all of it, or larger where one looks closer. */
import { nextTick, ref, watch } from "vue";

defineProps<{ issue: number; title: string }>();
const large = ref(false);
const room = ref<HTMLElement | null>(null);
watch(large, async () => {
  await nextTick();
  const box = room.value;
  // the middle of the sheet is where the drawing is
  box?.scrollTo((box.scrollWidth - box.clientWidth) / 2, (box.scrollHeight - box.clientHeight) * 0.42);
});
/** Dragged with a mouse, as it is with a finger. */
function drag(e: PointerEvent): void {
  if (e.buttons === 1 && e.pointerType === "mouse") room.value?.scrollBy(-e.movementX, -e.movementY);
}
</script>

<template>
  <aside class="paper flex min-h-0 min-w-0 flex-col" aria-label="Exercise sheet" data-exercise-sheet>
    <div
      ref="room"
      class="min-h-0 flex-1 overflow-auto"
      :class="large && 'cursor-grab'"
      tabindex="0"
      role="group"
      aria-label="Exercise sheet, scrolls"
      @pointermove="drag"
    >
      <img
        :src="`/api/work/${issue}/sheet.png`"
        :alt="`Exercise sheet of ${title}`"
        draggable="false"
        :class="large ? 'max-w-none' : 'h-full w-full object-contain'"
        :style="large ? 'width: 170%' : ''"
      />
    </div>
    <p class="flex justify-end gap-4 border-t border-rule px-3 py-1 text-sm">
      <button class="text-teal underline" :aria-pressed="large" @click="large = !large">
        {{ large ? "Fit" : "Enlarge" }}
      </button>
      <a :href="`/api/work/${issue}/sheet.png`" target="_blank">Open in a tab</a>
    </p>
  </aside>
</template>
