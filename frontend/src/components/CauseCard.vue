<script setup lang="ts">
/** One slip: what happened, which findings it explains, what it costs; for a student also how to avoid it. */
import type { Schemas } from "../api/client";
import { marks } from "../numbers";
import YourSteps from "./YourSteps.vue";

defineProps<{
  cause: Schemas["CauseOut"];
  chosen: boolean;
  teaching?: boolean;
  /** The steps that drew what it is about, and the board on which they stand. */
  yours?: Schemas["YourStepOut"][];
  board?: number | null;
}>();
const emit = defineEmits<{ choose: [] }>();
const list = (ids: number[]) =>
  ids.length <= 6 ? ids.join(", ") : `${ids.slice(0, 5).join(", ")} and ${ids.length - 5} more`;
</script>

<template>
  <div
    class="paper rounded-lg border-l-4"
    :class="chosen ? '!border-l-pencil' : '!border-l-rule hover:!border-l-pencil/60'"
  >
    <button class="block w-full px-4 py-2.5 text-left" :aria-pressed="chosen" @click="emit('choose')">
      <span
        class="block leading-snug"
        :class="[
          cause.code === 'unexplained' ? '' : 'font-semibold',
          cause.set_aside ? 'text-ink2 line-through' : '',
        ]"
        >{{ cause.says }}</span
      >
      <span class="mt-1 block text-sm text-ink2">
        explains <b class="text-pencil">{{ list(cause.explains) }}</b> · costs {{ marks(cause.costs)
        }}<template v-if="cause.set_aside"> · set aside by hand</template>
      </span>
    </button>
    <p v-if="yours?.length" class="px-4 pb-2"><YourSteps :yours="yours" :board="board ?? null" /></p>
    <div v-if="teaching" class="space-y-2 border-t border-rule px-4 py-2.5">
      <table v-if="cause.lesson.lines.length" class="w-full text-[0.93rem]">
        <thead>
          <tr class="text-left text-sm text-ink2">
            <th class="pr-2 font-semibold"><span class="sr-only">Characteristic</span></th>
            <th class="pr-2 font-semibold">asked</th>
            <th class="font-semibold">you drew</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="l in cause.lesson.lines" :key="l.finding" class="align-top">
            <td class="py-0.5 pr-2">{{ l.name }}</td>
            <td class="py-0.5 pr-2">{{ l.asked ?? "" }}</td>
            <td class="py-0.5 font-semibold text-pencil">{{ l.drawn ?? "" }}</td>
          </tr>
        </tbody>
      </table>
      <p v-if="cause.lesson.more" class="text-sm text-ink2">and {{ cause.lesson.more }} more</p>
      <p class="text-[0.95rem]"><b>Next time.</b> {{ cause.lesson.avoid }}</p>
    </div>
  </div>
</template>
