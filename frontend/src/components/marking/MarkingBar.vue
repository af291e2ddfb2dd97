<script setup lang="ts">
/** The bar of Marking: which exercise and class, whose drawing, neighbours, the score, and returning it. */
import { computed } from "vue";
import type { Schemas } from "../../api/client";
import { marks } from "../../numbers";
import AppBar from "../AppBar.vue";
import ChoiceList from "../ChoiceList.vue";

const props = defineProps<{ data: Schemas["MarkingOut"] | undefined; busy: boolean; loading: boolean }>();
const emit = defineEmits<{ go: [attempt: number | null]; giveBack: [] }>();
const word = computed(() =>
  props.data?.returned === "yes"
    ? "Returned"
    : props.data?.returned === "changed"
      ? "Return the change"
      : "Return",
);
</script>

<template>
  <AppBar>
    <template #start>
      <nav v-if="data" aria-label="Where this is" class="hidden min-w-0 truncate text-ink2 xl:block">
        <RouterLink :to="`/issues/${data.issue.id}`" class="text-ink2">{{ data.issue.title }}</RouterLink> ·
        <b class="text-ink">{{ data.issue.class_name }}</b>
      </nav>
      <RouterLink v-if="data" :to="`/issues/${data.issue.id}`" class="hidden text-ink2 lg:block xl:hidden"
        >The class</RouterLink
      >
      <span v-else></span>
    </template>
    <template v-if="data" #middle>
      <button
        class="press-quiet !px-2"
        :disabled="!data.previous"
        aria-label="Previous student"
        @click="emit('go', data.previous)"
      >
        <span aria-hidden="true">‹</span>
      </button>
      <p class="min-w-0 truncate px-3" aria-live="polite">
        <span v-if="loading" class="text-ink2">Loading the next drawing …</span>
        <template v-else>
          <b>{{ data.student }}</b>
          <span class="ml-2 text-ink2">{{ data.place }} of {{ data.of }}</span>
        </template>
      </p>
      <ChoiceList
        v-if="data.tries.length > 1"
        label="Which try"
        small
        class="mr-3 text-sm"
        :choices="data.tries.map((t) => ({ value: t.attempt_id, word: `try ${t.number}` }))"
        :model-value="data.attempt_id"
        @update:model-value="emit('go', $event)"
      />
      <button
        class="press-quiet !px-2"
        :disabled="!data.next"
        aria-label="Next student"
        @click="emit('go', data.next)"
      >
        <span aria-hidden="true">›</span>
      </button>
    </template>
    <template #end>
      <p v-if="data?.marks && !loading" class="whitespace-nowrap">
        <b class="text-xl">{{ marks(data.marks.earned) }}</b>
        <span class="ml-1 text-sm text-ink2">of {{ marks(data.marks.possible).replace(/\.00$/, "") }}</span>
      </p>
      <button
        v-if="data?.marks"
        :class="data.returned === 'yes' ? 'press-quiet' : 'press'"
        :disabled="data.returned === 'yes' || busy"
        @click="emit('giveBack')"
      >
        {{ word }}
      </button>
    </template>
  </AppBar>
</template>
