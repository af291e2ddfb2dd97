<script setup lang="ts">
import { useQuery } from "@tanstack/vue-query";
import { computed, ref, watch } from "vue";
import { get, post, type Schemas } from "../api/client";
import { DETAILS, RETURNS } from "../rules";
import { forField, fromField } from "../times";
import { useAct } from "../useAct";
import ChoiceList from "./ChoiceList.vue";
import DialogSheet from "./DialogSheet.vue";
import DueAndTries from "./DueAndTries.vue";
import OwnChecks from "./OwnChecks.vue";
import { keys } from "../queries";

const props = defineProps<{
  open: boolean;
  page: Schemas["ExercisePage"];
  proof?: Schemas["ProofOut"];
}>();
const emit = defineEmits<{ close: []; issued: [] }>();
const { data } = useQuery({ queryKey: keys.classes, queryFn: () => get("/api/classes") });
const free = computed(
  () =>
    data.value?.classes.filter((c) => !c.archived && !props.page.issues.some((i) => i.class_id === c.id)) ??
    [],
);

const groups = computed(() =>
  free.value.map((c) => ({ value: c.id, word: `${c.name} (${c.students} students)` })),
);
const details = DETAILS.map((d) => ({ value: d.value, word: d.name }));

function inAWeek(): string {
  return forField(new Date(Date.now() + 7 * 86400000).setHours(23, 59, 0, 0));
}
/** What the sheet does not say cannot be drawn from it. */
const unsaid = computed(() => !props.page.reading.counts.dimensions);
const group = ref<number | null>(null);
const due = ref(inAWeek());
const tries = ref(3);
const detail = ref<Schemas["IssueIn"]["detail"]>("numbers");
const returns = ref<Schemas["IssueHead"]["returns"]>("at-once");
const checks = ref(0);
const says = ref<Schemas["IssueIn"]["own_says"]>("which");
const { busy, trouble, act } = useAct();
watch([free, () => props.open], () => {
  if (!free.value.some((c) => c.id === group.value)) group.value = free.value[0]?.id ?? null;
});

async function issue(): Promise<void> {
  const [class_id, due_at] = [group.value, fromField(due.value)];
  if (class_id === null || due_at === null) return;
  const done = await act(() =>
    post(
      "/api/exercises/{revision_id}/issues",
      { revision_id: props.page.revision_id },
      {
        class_id,
        due_at,
        tries: tries.value,
        detail: detail.value,
        returns: returns.value,
        own_checks: checks.value,
        own_says: says.value,
      },
    ),
  );
  if (done) emit("issued");
}
</script>

<template>
  <DialogSheet :open="open" title="Issue to a class" @close="emit('close')">
    <p v-if="data && !free.length" class="mt-3 text-ink2">
      All your classes have this revision, or you have no class yet.
      <RouterLink to="/classes">Open Classes.</RouterLink>
    </p>
    <form v-else class="mt-4 space-y-3" @submit.prevent="issue">
      <div>
        <p class="mb-1 text-sm font-semibold">Class</p>
        <ChoiceList v-model="group" label="Class" :choices="groups" />
      </div>
      <DueAndTries v-model:due="due" v-model:tries="tries" />
      <div>
        <p class="mb-1 text-sm font-semibold">What students see of the result</p>
        <ChoiceList v-model="detail" label="What students see of the result" :choices="details" />
      </div>
      <div>
        <p class="mb-1 text-sm font-semibold">When they see it</p>
        <ChoiceList v-model="returns" label="When students see the result" :choices="RETURNS" />
      </div>
      <OwnChecks v-model:checks="checks" v-model:says="says" />
      <p v-if="unsaid" class="border-l-4 border-near bg-near-soft px-3 py-2 text-sm" data-unsaid>
        <b>The key has no dimensions, so its sheet shows none.</b> Use a key with dimensions, or give the
        sizes in the instructions.
      </p>
      <p
        v-else-if="proof && !proof.complete"
        class="border-l-4 border-near bg-near-soft px-3 py-2 text-sm"
        data-unproved
      >
        <b>The sheet: {{ proof.says }}</b> Open “The sheet” to see what, or issue it as it is.
      </p>
      <p v-if="page.number > 1" class="text-sm text-ink2">
        It replaces an older revision in that class; results of that one stay.
      </p>
      <p class="text-sm text-ink2">
        Once issued, what counts is fixed; later changes begin a new revision. Title and instructions can be
        corrected.
      </p>
      <p v-if="trouble" role="alert" class="text-pencil">{{ trouble }}</p>
      <div class="flex justify-end gap-2 pt-1">
        <button type="button" class="press-quiet" @click="emit('close')">Cancel</button>
        <button class="press" :disabled="busy || group === null">Issue</button>
      </div>
    </form>
  </DialogSheet>
</template>
