<script setup lang="ts">
/** Lists that were set aside when two pages had gone on from the same one. */
import type { Schemas } from "../../api/client";
import { when } from "../../times";

defineProps<{ aside: Schemas["BoardPage"]["aside"] }>();
const emit = defineEmits<{ open: [id: number] }>();
</script>

<template>
  <details v-if="aside.length" class="text-sm text-ink2">
    <summary class="cursor-pointer">Set aside</summary>
    <p v-for="a in aside" :key="a.id" class="flex justify-between gap-3">
      <span>{{ a.says }}, {{ when(a.at) }}</span>
      <button class="text-teal underline" @click="emit('open', a.id)">Use this list</button>
    </p>
  </details>
</template>
