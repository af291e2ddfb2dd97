<script setup lang="ts">
/** What a newer engine sees otherwise than the mark sheet that was returned, or the one before. */
import type { Schemas } from "../../api/client";
import { marks, shown } from "../../numbers";
import DialogSheet from "../DialogSheet.vue";

defineProps<{ open: boolean; differs: Schemas["DiffersOut"]; unit: string }>();
const emit = defineEmits<{ close: []; choose: [finding: number] }>();
</script>

<template>
  <DialogSheet :open="open" title="What differs" wide @close="emit('close')">
    <p class="mt-1 text-ink2">
      Engine {{ differs.engine_before }} gave {{ marks(differs.earned[0]!) }}, engine
      {{ differs.engine_after }} gives {{ marks(differs.earned[1]!) }}. Changed verdicts are not counted here.
    </p>
    <div class="paper mt-3 max-h-[55vh] overflow-y-auto">
      <table class="w-full text-sm">
        <thead>
          <tr>
            <th class="cell-head">Finding</th>
            <th class="cell-head">Before</th>
            <th class="cell-head">Now</th>
          </tr>
        </thead>
        <tbody class="divide-y divide-rule">
          <tr v-for="r in differs.findings" :key="r.finding">
            <td class="px-2.5 py-1.5">
              <button class="text-left text-teal underline" @click="emit('choose', r.finding)">
                {{ r.finding }} {{ r.name }}
              </button>
            </td>
            <td v-for="(side, n) in [r.before, r.after]" :key="n" class="px-2.5 py-1.5">
              <template v-if="side">
                <b>{{ side.verdict }}</b> {{ marks(side.earned) }}
                <span class="text-ink2">{{ shown(side.measured, r.kind, unit) }}</span>
              </template>
              <span v-else class="text-ink2">not asked</span>
            </td>
          </tr>
          <tr v-if="!differs.findings.length">
            <td colspan="3" class="px-3 py-3 text-ink2">All verdicts and marks are the same.</td>
          </tr>
        </tbody>
      </table>
    </div>
    <ul v-if="differs.causes_gone.length || differs.causes_come.length" class="mt-3 space-y-1 text-sm">
      <li v-for="s in differs.causes_gone" :key="s" class="text-ink2 line-through">{{ s }}</li>
      <li v-for="s in differs.causes_come" :key="s">{{ s }}</li>
    </ul>
    <div class="mt-4 flex justify-end"><button class="press" @click="emit('close')">Close</button></div>
  </DialogSheet>
</template>
