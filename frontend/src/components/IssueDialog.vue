<script setup lang="ts">
import { useQuery } from "@tanstack/vue-query";
import { computed, ref, watch } from "vue";
import { get, post, saysOf, type Schemas } from "../api/client";
import { DETAILS, RETURNS } from "../rules";
import ChoiceList from "./ChoiceList.vue";
import DialogSheet from "./DialogSheet.vue";

const props = defineProps<{ open: boolean; revision: number; issued: Schemas["IssueRow"][] }>();
const emit = defineEmits<{ close: []; issued: [] }>();
const { data } = useQuery({ queryKey: ["classes"], queryFn: () => get<Schemas["ClassRows"]>("/classes") });
const free = computed(() => data.value?.classes.filter((c) => !props.issued.some((i) => i.class_id === c.id)) ?? []);

const groups = computed(() => free.value.map((c) => ({ value: c.id, word: `${c.name} (${c.students} students)` })));
const details = DETAILS.map((d) => ({ value: d.value, word: d.name }));

function inAWeek(): string {
  const due = new Date(Date.now() + 7 * 86400000);
  due.setHours(23, 59, 0, 0);
  return new Date(due.getTime() - due.getTimezoneOffset() * 60000).toISOString().slice(0, 16);
}
const group = ref<number | null>(null);
const due = ref(inAWeek());
const tries = ref(3);
const detail = ref<Schemas["IssueIn"]["detail"]>("numbers");
const returns = ref<Schemas["IssueHead"]["returns"]>("at-once");
const trouble = ref("");
const busy = ref(false);
watch([free, () => props.open], () => {
  if (!free.value.some((c) => c.id === group.value)) group.value = free.value[0]?.id ?? null;
});

async function issue(): Promise<void> {
  busy.value = true;
  trouble.value = "";
  try {
    await post(`/exercises/${props.revision}/issues`, {
      class_id: group.value,
      due_at: new Date(due.value).toISOString(),
      tries: tries.value,
      detail: detail.value,
      returns: returns.value,
    });
    emit("issued");
  } catch (why) {
    trouble.value = saysOf(why);
  } finally {
    busy.value = false;
  }
}
</script>

<template>
  <DialogSheet :open="open" title="Issue to a class" @close="emit('close')">
    <p v-if="data && !free.length" class="mt-3 text-ink2">
      Every class of yours has this revision already, or you have none yet.
      <RouterLink to="/classes">Go to the classes.</RouterLink>
    </p>
    <form v-else class="mt-4 space-y-3" @submit.prevent="issue">
      <p class="text-sm font-semibold">Class</p>
      <ChoiceList v-model="group" label="Class" :choices="groups" class="!mt-1" />
      <div class="grid grid-cols-[1fr_7rem] gap-3">
        <div>
          <label class="block text-sm font-semibold" for="due">Due</label>
          <input id="due" v-model="due" type="datetime-local" class="field mt-1" required />
        </div>
        <div>
          <label class="block text-sm font-semibold" for="tries">Tries</label>
          <input id="tries" v-model.number="tries" type="number" min="1" max="99" class="field mt-1" required />
        </div>
      </div>
      <p class="text-sm font-semibold">What students see of the result</p>
      <ChoiceList v-model="detail" label="What students see of the result" :choices="details" class="!mt-1" />
      <p class="text-sm font-semibold">When they see it</p>
      <ChoiceList v-model="returns" label="When students see the result" :choices="RETURNS" class="!mt-1" />
      <p class="text-sm text-ink2">Once issued, this revision stays as it is. Later changes begin a new one.</p>
      <p v-if="trouble" role="alert" class="text-pencil">{{ trouble }}</p>
      <div class="flex justify-end gap-2 pt-1">
        <button type="button" class="press-quiet" @click="emit('close')">Cancel</button>
        <button class="press" :disabled="busy || group === null">Issue</button>
      </div>
    </form>
  </DialogSheet>
</template>
