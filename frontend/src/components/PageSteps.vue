<script setup lang="ts">
/** Which part of a long list is shown, and the way to the parts before and after it. */
defineProps<{ first: number; shown: number; count: number; pages: number }>();
const page = defineModel<number>({ required: true });
</script>

<template>
  <nav v-if="pages > 1" aria-label="Pages of the list" class="mt-4 flex items-center gap-3 text-sm text-ink2">
    <button class="press-quiet !px-2.5 !py-1" :disabled="page <= 1" @click="page -= 1">Previous</button>
    <span role="status">{{ first + 1 }} to {{ first + shown }} of {{ count }}</span>
    <button class="press-quiet !px-2.5 !py-1" :disabled="page >= pages" @click="page += 1">Next</button>
  </nav>
</template>
