<script setup lang="ts">
/** What a check of one's own work says: which checks are not met yet, or how many; no number and no place. */
import type { Schemas } from "../../api/client";

defineProps<{ told: Schemas["OwnCheckTold"] }>();
const emit = defineEmits<{ close: []; step: [step: number] }>();
</script>

<template>
  <section class="paper px-3 py-2" aria-label="Self-check" role="status" data-own-check>
    <p class="flex justify-between gap-3">
      <strong v-if="told.not_met">{{ told.not_met }} of {{ told.of }} checks are not met yet.</strong>
      <strong v-else-if="told.held_back">
        {{ told.of - told.held_back }} of {{ told.of }} checks are met; the others are not told.
      </strong>
      <strong v-else>All {{ told.of }} checks are met.</strong>
      <button type="button" class="text-sm text-teal underline" @click="emit('close')">close</button>
    </p>
    <p v-for="says in told.why" :key="says" class="text-sm">{{ says }}</p>
    <ul v-if="told.which?.length" class="max-h-32 list-disc overflow-y-auto pl-5 text-sm" tabindex="0">
      <li v-for="(one, n) in told.which" :key="n">
        {{ one.name }}
        <template v-for="y in one.yours" :key="y.says">
          ·
          <button type="button" class="text-teal underline" @click="emit('step', y.step)">
            {{ y.says }}
          </button>
        </template>
      </li>
    </ul>
  </section>
</template>
