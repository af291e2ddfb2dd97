<script setup lang="ts">
import type { Schemas } from "../api/client";
import { away, when } from "../times";

defineProps<{ issues: readonly Schemas["IssueRow"][]; ofOneClass?: boolean }>();
</script>

<template>
  <div class="paper overflow-x-auto">
    <table class="w-full">
      <thead class="border-b border-rule">
        <tr>
          <th class="cell-head">Exercise</th>
          <th v-if="!ofOneClass" class="cell-head">Class</th>
          <th class="cell-head">Due</th>
          <th class="cell-head w-40">Handed in</th>
        </tr>
      </thead>
      <tbody class="divide-y divide-rule">
        <tr v-for="i in issues" :key="i.id" class="hover:bg-teal-soft">
          <td class="p-0">
            <RouterLink
              :to="`/issues/${i.id}`"
              class="block px-2.5 py-2.5 font-semibold text-ink no-underline"
            >
              {{ i.title }}
              <span v-if="i.revision > 1" class="font-normal text-ink2">· revision {{ i.revision }}</span>
              <span v-if="i.newer" class="block text-sm font-normal text-ink2"
                >replaced by a newer revision</span
              >
            </RouterLink>
          </td>
          <td v-if="!ofOneClass" class="max-w-40 truncate px-2.5" :title="i.class_name">
            {{ i.class_name }}
          </td>
          <td class="px-2.5 py-1.5" :class="i.past_due || i.closed_at ? 'text-ink2' : ''">
            <template v-if="i.closed_at">closed {{ when(i.closed_at) }}</template>
            <template v-else>
              {{ when(i.due_at) }}<span class="block text-sm text-ink2">{{ away(i.due_at) }}</span>
            </template>
          </td>
          <td class="px-2.5">
            <div class="flex items-center gap-2">
              <span class="w-12 text-right">{{ i.handed_in }} of {{ i.students }}</span>
              <span class="h-1.5 flex-1 overflow-hidden rounded bg-rule" aria-hidden="true">
                <span
                  class="block h-full bg-teal"
                  :style="{ width: `${i.students ? (i.handed_in / i.students) * 100 : 0}%` }"
                ></span>
              </span>
            </div>
            <p v-if="i.waiting" class="text-sm text-near">{{ i.waiting }} being marked</p>
            <p v-if="i.to_return" class="text-sm text-ink2">{{ i.to_return }} to be returned</p>
            <p v-if="i.failed" class="text-sm text-pencil">{{ i.failed }} could not be marked</p>
          </td>
        </tr>
      </tbody>
    </table>
  </div>
</template>
