<script setup lang="ts">
/** The comments of an attempt, by letter as on the drawing. */
import type { Schemas } from "../../api/client";
import { letterOf } from "../../numbers";

defineProps<{ comments: Schemas["CommentOut"][]; chosen: number | null; editable?: boolean }>();
const emit = defineEmits<{ choose: [number: number]; undo: [act: number] }>();
</script>

<template>
  <ul class="space-y-1.5" aria-label="Comments">
    <li v-for="c in comments" :key="c.act" class="flex items-start gap-2 text-[0.95rem]">
      <button
        class="mt-0.5 grid h-5 min-w-5 place-items-center rounded-sm px-1 text-[0.78rem] font-bold text-white"
        :class="c.number === chosen ? 'bg-ink' : 'bg-teal'"
        :aria-label="`Comment ${letterOf(c.number)}`"
        @click="emit('choose', c.number)"
      >
        {{ letterOf(c.number) }}
      </button>
      <p class="flex-1 break-words whitespace-pre-line">
        {{ c.text }}
        <span class="text-sm text-ink2">{{ c.finding ? `on ${c.finding}, ` : "" }}{{ c.by }}</span>
      </p>
      <button v-if="editable" class="text-sm text-teal underline" @click="emit('undo', c.act)">
        Delete comment
      </button>
    </li>
  </ul>
</template>
