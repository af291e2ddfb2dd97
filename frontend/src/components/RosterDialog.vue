<script setup lang="ts">
/** What became of each row of a roster. */
import type { Schemas } from "../api/client";
import DialogSheet from "./DialogSheet.vue";

defineProps<{ rows: readonly Schemas["RosterRow"][] | null; classId: number }>();
const emit = defineEmits<{ close: [] }>();
</script>

<template>
  <DialogSheet :open="rows !== null" title="Roster added" wide @close="emit('close')">
    <p class="mt-2 text-ink2">
      New accounts have a code for choosing a password. Codes are listed beside the students until used.
    </p>
    <div
      class="paper mt-3 max-h-[50vh] overflow-y-auto"
      tabindex="0"
      role="group"
      aria-label="Rows of the roster"
    >
      <table class="w-full text-sm">
        <thead>
          <tr>
            <th class="cell-head">Row</th>
            <th class="cell-head">Name</th>
            <th class="cell-head">Sign-in</th>
            <th class="cell-head">Code</th>
            <th class="cell-head">Outcome</th>
          </tr>
        </thead>
        <tbody class="divide-y divide-rule">
          <tr v-for="r in rows" :key="r.line">
            <td class="px-2.5 py-1.5 text-ink2">{{ r.line }}</td>
            <td class="px-2.5">{{ r.name }}</td>
            <td class="px-2.5">{{ r.sign_in }}</td>
            <td class="px-2.5 font-semibold">{{ r.code }}</td>
            <td class="px-2.5" :class="r.outcome === 'left-out' && 'text-pencil'">{{ r.says }}</td>
          </tr>
        </tbody>
      </table>
    </div>
    <div class="mt-4 flex justify-end gap-2">
      <RouterLink
        v-if="rows?.some((r) => r.code)"
        :to="`/classes/${classId}/slips`"
        class="press-quiet no-underline"
      >
        Print sign-in cards
      </RouterLink>
      <button class="press" @click="emit('close')">Close</button>
    </div>
  </DialogSheet>
</template>
