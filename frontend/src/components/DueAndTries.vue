<script setup lang="ts">
/** Until when something is handed in, and how many times. */
const due = defineModel<string>("due", { required: true });
const tries = defineModel<number>("tries", { required: true });
</script>

<template>
  <div class="grid grid-cols-[1fr_7rem] gap-3">
    <label class="block text-sm font-semibold">
      Due
      <input v-model="due" type="datetime-local" class="field mt-1 font-normal" required />
    </label>
    <label class="block text-sm font-semibold">
      Tries
      <input v-model.number="tries" type="number" min="1" max="99" class="field mt-1 font-normal" required />
    </label>
  </div>
</template>
