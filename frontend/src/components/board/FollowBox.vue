<script setup lang="ts">
/** A drawing that is followed: which of its steps is next and what to do for it; it can be left at any time. */
import { useRoute, useRouter } from "vue-router";
import { remove } from "../../api/client";
import { LESSONS } from "../../board/lessons";
import type { FollowState } from "../../board/useFollow";
import { useAct } from "../../useAct";

const props = defineProps<{ follow: FollowState; board: number }>();
const emit = defineEmits<{ start: [name: string] }>();
const f = props.follow;
const route = useRoute();
const router = useRouter();
const { busy, trouble, act } = useAct();
const from = () =>
  typeof route.query.from === "string" && route.query.from.startsWith("/") ? route.query.from : "/";
async function leave(): Promise<void> {
  if (await act(() => remove("/api/boards/{board_id}", { board_id: props.board }))) await router.push(from());
}
</script>

<template>
  <section
    v-if="f.lesson.value && f.next.value"
    class="follow"
    aria-label="A drawing to follow"
    data-follow
    :data-how="f.next.value.how"
  >
    <p class="flex items-baseline justify-between gap-3">
      <strong>{{ f.lesson.value.title }}</strong>
      <span class="text-sm text-ink2">
        step {{ Math.min(f.stage.value + 1, f.lesson.value.stages.length) }} of
        {{ f.lesson.value.stages.length }}
        <button type="button" class="ml-2 text-teal underline" :disabled="busy" @click="leave">
          Leave and delete
        </button>
      </span>
    </p>
    <p v-if="f.now.value" class="text-sm text-ink2">{{ f.now.value.says }}</p>
    <p
      aria-live="polite"
      class="font-semibold"
      :class="f.next.value.how === 'astray' && 'text-pencil'"
      data-follow-says
    >
      {{ f.next.value.says }}
    </p>
    <p v-if="f.next.value.how === 'done'" class="mt-1 flex flex-wrap gap-2 text-sm">
      <template v-for="l in LESSONS" :key="l.name">
        <button
          v-if="l.name !== f.lesson.value.name"
          type="button"
          class="pill"
          @click="emit('start', l.name)"
        >
          Next: {{ l.title.toLowerCase() }}
        </button>
      </template>
      <button type="button" class="pill" :disabled="busy" @click="leave">
        Delete this practice and go back
      </button>
    </p>
    <p v-if="trouble" class="text-pencil" role="alert">{{ trouble }}</p>
  </section>
</template>

<style scoped>
.follow {
  flex-shrink: 0;
  border: 1px solid var(--color-rule);
  border-left: 5px solid var(--color-teal);
  border-radius: 0.45rem;
  background: white;
  padding: 0.5rem 0.8rem;
}
</style>
