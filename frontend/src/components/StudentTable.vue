<script setup lang="ts">
/** Students of a class with verdicts, slips, time and score, one a row. */
import type { Schemas } from "../api/client";
import { marks } from "../numbers";
import { when } from "../times";
import VerdictCounts from "./VerdictCounts.vue";

defineProps<{ rows: Schemas["ResultRow"][] }>();
const emit = defineEmits<{ allow: [student: number] }>();
const allowed = (a: NonNullable<Schemas["ResultRow"]["allowance"]>) =>
  [a.due_at ? `until ${when(a.due_at)}` : "", a.more_tries ? `${a.more_tries} more` : ""]
    .filter(Boolean)
    .join(", ");
</script>

<template>
  <div class="paper overflow-x-auto">
    <table class="w-full">
      <thead class="border-b border-rule">
        <tr>
          <th class="cell-head">Student</th>
          <th class="cell-head w-56">Verdicts</th>
          <th class="cell-head">Slips</th>
          <th class="cell-head">Handed in</th>
          <th class="cell-head !text-right">Marks</th>
        </tr>
      </thead>
      <tbody class="divide-y divide-rule">
        <tr v-for="s in rows" :key="s.student_id" :class="s.attempt_id ? 'hover:bg-teal-soft' : ''">
          <td class="px-2.5 py-2 align-top">
            <RouterLink v-if="s.attempt_id" :to="`/marking/${s.attempt_id}`" class="font-semibold">{{
              s.name
            }}</RouterLink>
            <span v-else>{{ s.name }}</span>
            <span v-if="s.try_number > 1" class="block text-sm text-ink2">try {{ s.try_number }}</span>
          </td>
          <td class="px-2.5 py-2 align-top">
            <VerdictCounts v-if="s.verdicts" :verdicts="s.verdicts" />
            <span v-else-if="s.state === 'waiting'" class="text-near" aria-live="polite">being marked …</span>
            <span v-else-if="s.state === 'failed'" class="text-pencil">{{ s.trouble }}</span>
            <span v-else class="text-ink2">nothing yet</span>
          </td>
          <td class="px-2.5 py-2 align-top text-sm">
            <span v-for="c in s.causes" :key="c.code" class="block">{{ c.title }}</span>
          </td>
          <td class="px-2.5 py-2 align-top text-sm text-ink2">
            <template v-if="s.handed_in_at">{{ when(s.handed_in_at) }}</template>
            <span v-if="s.late" class="block font-semibold text-near">late</span>
            <button v-if="!s.left" class="block text-teal underline" @click="emit('allow', s.student_id)">
              {{ s.allowance ? allowed(s.allowance) : "Allow more" }}
            </button>
          </td>
          <td class="px-2.5 py-2 text-right align-top">
            <b>{{ s.earned === null ? "" : marks(s.earned ?? 0) }}</b>
            <span v-if="s.returned !== 'no'" class="block text-sm text-ink2">{{
              s.returned === "yes" ? "returned" : "changed since"
            }}</span>
          </td>
        </tr>
      </tbody>
    </table>
  </div>
</template>
