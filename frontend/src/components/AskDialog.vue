<script setup lang="ts">
/** A plain question before something is done: what will happen stands in the slot. */
import DialogSheet from "./DialogSheet.vue";

defineProps<{
  open: boolean;
  title: string;
  word: string;
  ends?: boolean;
  busy?: boolean;
  trouble?: string;
}>();
const emit = defineEmits<{ close: []; yes: [] }>();
</script>

<template>
  <DialogSheet :open="open" :title="title" @close="emit('close')">
    <div class="mt-2 space-y-2 text-ink2"><slot /></div>
    <p v-if="trouble" role="alert" class="mt-3 text-pencil">{{ trouble }}</p>
    <div class="mt-4 flex justify-end gap-2">
      <button class="press-quiet" @click="emit('close')">Cancel</button>
      <button :class="ends ? 'press-ends' : 'press'" :disabled="busy" @click="emit('yes')">{{ word }}</button>
    </div>
  </DialogSheet>
</template>
