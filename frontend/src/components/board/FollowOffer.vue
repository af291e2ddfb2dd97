<script setup lang="ts">
/** Drawings that can be followed, for who draws here for the first time. */
import { LESSONS } from "../../board/lessons";

defineProps<{ closes: boolean }>();
const emit = defineEmits<{ start: [name: string]; close: [] }>();
</script>

<template>
  <section aria-label="Drawings to follow" data-follow-offer>
    <p class="flex items-baseline justify-between gap-3">
      <strong>{{ closes ? "New here? Draw one of these first." : "Drawings to follow" }}</strong>
      <button v-if="closes" type="button" class="text-sm text-teal underline" @click="emit('close')">
        Not now
      </button>
    </p>
    <p class="text-sm text-ink2">
      A marker shows what to click and type. It is drawn on a practice sheet of your own.
    </p>
    <ul class="mt-1.5 space-y-1">
      <li v-for="l in LESSONS" :key="l.name" class="flex items-baseline gap-2">
        <button type="button" class="pill shrink-0" @click="emit('start', l.name)">{{ l.title }}</button>
        <span class="text-sm text-ink2">{{ l.teaches }}</span>
      </li>
    </ul>
  </section>
</template>
