<script setup lang="ts">
/** A dialog on a sheet of paper. */
import { Dialog, DialogPanel, DialogTitle } from "@headlessui/vue";

defineProps<{ open: boolean; title: string; wide?: boolean }>();
const emit = defineEmits<{ close: [] }>();
</script>

<template>
  <Dialog :open="open" class="relative z-40" @close="emit('close')">
    <div class="fixed inset-0 bg-ink/35" aria-hidden="true"></div>
    <div class="fixed inset-0 overflow-y-auto p-4">
      <div class="flex min-h-full items-center justify-center">
        <DialogPanel class="paper w-full p-6 shadow-xl" :class="wide ? 'max-w-3xl' : 'max-w-lg'">
          <DialogTitle class="text-lg font-bold">{{ title }}</DialogTitle>
          <slot />
        </DialogPanel>
      </div>
    </div>
  </Dialog>
</template>
