<script setup lang="ts">
/** A later date or more tries for one student, with the reason; and a way to take that back. */
import { computed, ref, watch } from "vue";
import { put, type Schemas } from "../api/client";
import { forField, fromField, when } from "../times";
import { useAct } from "../useAct";
import ChoiceList from "./ChoiceList.vue";
import DialogSheet from "./DialogSheet.vue";

const props = defineProps<{
  open: boolean;
  issue: Schemas["IssueHead"];
  students: readonly Schemas["ResultRow"][];
  /** Whom it is opened for. */
  start: number | null;
}>();
const emit = defineEmits<{ close: []; changed: [says: string] }>();
const { busy, trouble, act, clear } = useAct();
const student = ref<number | null>(null);
const due = ref("");
const more = ref(0);
const reason = ref("");
const choices = computed(() =>
  props.students.filter((s) => !s.left).map((s) => ({ value: s.student_id, word: s.name })),
);
const known = computed(() => props.students.find((s) => s.student_id === student.value)?.allowance ?? null);

watch(
  () => props.open,
  (open) => open && (student.value = props.start ?? choices.value[0]?.value ?? null),
  { immediate: true },
);
watch([() => props.open, student], () => {
  clear();
  due.value = known.value?.due_at ? forField(known.value.due_at) : "";
  more.value = known.value?.more_tries ?? 0;
  reason.value = known.value?.reason ?? "";
});
async function send(due_at: string | null, more_tries: number): Promise<void> {
  const id = student.value;
  if (id === null) return;
  const done = await act(() =>
    put(
      "/api/issues/{issue_id}/students/{student_id}/allowance",
      { issue_id: props.issue.id, student_id: id },
      { due_at, more_tries, reason: reason.value },
    ),
  );
  if (done) emit("changed", done.says);
}
function give(): void {
  const later = due.value ? fromField(due.value) : null;
  if (!later && !more.value) trouble.value = "Choose a later date, or more tries.";
  else void send(later, more.value);
}
</script>

<template>
  <DialogSheet :open="open" title="Extra time or tries" @close="emit('close')">
    <form class="mt-4 space-y-3" @submit.prevent="give">
      <div>
        <p class="mb-1 text-sm font-semibold">Student</p>
        <ChoiceList v-model="student" label="Student" :choices="choices" />
      </div>
      <div class="grid grid-cols-[1fr_8rem] gap-3">
        <label class="block text-sm font-semibold">
          Until
          <input v-model="due" type="datetime-local" class="field mt-1 font-normal" />
        </label>
        <label class="block text-sm font-semibold">
          More tries
          <input
            v-model.number="more"
            type="number"
            min="0"
            max="99"
            class="field mt-1 font-normal"
            required
          />
        </label>
      </div>
      <p class="text-sm text-ink2">
        The class has until {{ when(issue.due_at) }} and {{ issue.tries }}
        {{ issue.tries === 1 ? "try" : "tries" }}. Without a date here, that stays so for the student.
      </p>
      <label class="block text-sm font-semibold">
        Reason
        <textarea
          v-model="reason"
          class="field mt-1 font-normal"
          rows="2"
          maxlength="2000"
          required
        ></textarea>
      </label>
      <p class="text-sm text-ink2">
        It goes into the record. The student sees the date and the tries, not the reason.
      </p>
      <p v-if="trouble" role="alert" class="text-pencil">{{ trouble }}</p>
      <div class="flex flex-wrap justify-end gap-2 pt-1">
        <button
          v-if="known"
          type="button"
          class="press-quiet mr-auto"
          :disabled="busy"
          @click="send(null, 0)"
        >
          Withdraw
        </button>
        <button type="button" class="press-quiet" @click="emit('close')">Cancel</button>
        <button class="press" :disabled="busy || student === null">Allow</button>
      </div>
    </form>
  </DialogSheet>
</template>
