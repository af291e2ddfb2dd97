<script setup lang="ts">
/** Asks for a name, with whatever else belongs to it in the slot. */
import { ref, watch } from "vue";
import DialogSheet from "./DialogSheet.vue";

const props = defineProps<{
  open: boolean;
  title: string;
  label: string;
  word: string;
  start: string;
  most: number;
  busy?: boolean;
  trouble?: string;
}>();
const emit = defineEmits<{ close: []; take: [name: string] }>();
const name = ref(props.start);
watch(
  () => props.open,
  (open) => open && (name.value = props.start),
);
</script>

<template>
  <DialogSheet :open="open" :title="title" @close="emit('close')">
    <form class="mt-3 space-y-3" @submit.prevent="emit('take', name)">
      <label class="block text-sm font-semibold">
        {{ label }}
        <input v-model="name" class="field mt-1 font-normal" :maxlength="most" required />
      </label>
      <slot />
      <p v-if="trouble" role="alert" class="text-pencil">{{ trouble }}</p>
      <div class="flex justify-end gap-2 pt-1">
        <button type="button" class="press-quiet" @click="emit('close')">Cancel</button>
        <button class="press" :disabled="busy">{{ word }}</button>
      </div>
    </form>
  </DialogSheet>
</template>
