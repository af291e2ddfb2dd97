<script setup lang="ts">
/** A line of a list that points at the drawing: chosen once it shows, chosen again it lets go. */
defineProps<{ on: boolean }>();
</script>

<template>
  <button
    class="w-full rounded px-1.5 py-0.5 text-left"
    :class="on ? 'bg-pencil-soft' : 'hover:bg-teal-soft/60'"
  >
    <slot />
  </button>
</template>
