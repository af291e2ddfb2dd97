<script setup lang="ts">
/** Above the list: how many steps there are, the next broken one, and what is looked for. */
import { computed } from "vue";
import { nextBroken } from "../../board/listed";
import type { Row } from "../../board/types";
import FindField from "../FindField.vue";

const props = defineProps<{ rows: readonly Row[]; chosen: ReadonlySet<number> }>();
const emit = defineEmits<{ choose: [id: number, more: boolean] }>();
const find = defineModel<string>("find", { required: true });
const FEW = 5;
const steps = computed(() => props.rows.filter((r) => r.kind === "step"));
const broken = computed(() => steps.value.filter((r) => r.broken).length);
function toBroken(): void {
  const [now] = props.chosen;
  const row = nextBroken(props.rows, steps.value.find((r) => r.id === now)?.number ?? null);
  if (row?.id) emit("choose", row.id, false);
}
</script>

<template>
  <div class="flex shrink-0 items-center gap-3">
    <h1 class="!text-lg">
      Steps <span class="ml-1 text-base font-normal text-ink2" data-count>{{ steps.length }}</span>
    </h1>
    <button
      v-if="broken"
      type="button"
      class="text-sm text-pencil underline"
      title="Go to the next step that draws nothing"
      data-to-broken
      @click="toBroken"
    >
      {{ broken }} broken
    </button>
    <FindField v-if="steps.length > FEW || find" v-model="find" class="ml-auto !py-0.5" label="Find a step" />
  </div>
</template>
