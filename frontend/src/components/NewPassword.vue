<script setup lang="ts">
/** A password that somebody chooses. */
const password = defineModel<string>({ required: true });
</script>

<template>
  <label class="block text-sm font-semibold" for="password">Password, ten characters or more</label>
  <input
    id="password"
    v-model="password"
    class="field mt-1"
    type="password"
    autocomplete="new-password"
    required
  />
</template>
