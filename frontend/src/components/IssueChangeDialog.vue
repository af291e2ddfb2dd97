<script setup lang="ts">
/** Another date or other tries for a class, and how much of the result it sees. */
import { ref, watch } from "vue";
import { patch, type Schemas } from "../api/client";
import { DETAILS } from "../rules";
import { forField, fromField } from "../times";
import { useAct } from "../useAct";
import ChoiceList from "./ChoiceList.vue";
import DialogSheet from "./DialogSheet.vue";
import DueAndTries from "./DueAndTries.vue";
import OwnChecks from "./OwnChecks.vue";

const props = defineProps<{ open: boolean; issue: Schemas["IssueHead"] }>();
const emit = defineEmits<{ close: []; changed: [says: string] }>();
const { busy, trouble, act, clear } = useAct();
const due = ref("");
const tries = ref(1);
const detail = ref(props.issue.detail);
const checks = ref(props.issue.own_checks);
const says = ref(props.issue.own_says);
const details = DETAILS.map((d) => ({ value: d.value, word: d.name }));
watch(
  () => props.open,
  (open) => {
    if (!open) return;
    clear();
    due.value = forField(props.issue.due_at);
    tries.value = props.issue.tries;
    detail.value = props.issue.detail;
    checks.value = props.issue.own_checks;
    says.value = props.issue.own_says;
  },
  { immediate: true },
);

async function change(): Promise<void> {
  const moved = due.value !== forField(props.issue.due_at);
  const done = await act(() =>
    patch(
      "/api/issues/{issue_id}",
      { issue_id: props.issue.id },
      {
        ...(moved ? { due_at: fromField(due.value) } : {}),
        tries: tries.value,
        detail: detail.value,
        own_checks: checks.value,
        own_says: says.value,
      },
    ),
  );
  if (done) emit("changed", done.says);
}
</script>

<template>
  <DialogSheet :open="open" title="Date and tries" @close="emit('close')">
    <form class="mt-4 space-y-3" @submit.prevent="change">
      <DueAndTries v-model:due="due" v-model:tries="tries" />
      <div>
        <p class="mb-1 text-sm font-semibold">What students see of the result</p>
        <ChoiceList v-model="detail" label="What students see of the result" :choices="details" />
      </div>
      <OwnChecks v-model:checks="checks" v-model:says="says" />
      <p class="text-sm text-ink2">
        Drawings that are no longer late lose that mark; none becomes late. It goes into the record.
      </p>
      <p v-if="trouble" role="alert" class="text-pencil">{{ trouble }}</p>
      <div class="flex justify-end gap-2 pt-1">
        <button type="button" class="press-quiet" @click="emit('close')">Cancel</button>
        <button class="press" :disabled="busy">Save changes</button>
      </div>
    </form>
  </DialogSheet>
</template>
