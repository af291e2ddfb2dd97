<script setup lang="ts">
/** The students of a class, those who left it and those who were asked in, with what can be done about each. */
import { useQueryClient } from "@tanstack/vue-query";
import { computed, ref } from "vue";
import { get, post, remove, type Schemas } from "../api/client";
import { useAct } from "../useAct";
import { useListing } from "../useListing";
import AskDialog from "./AskDialog.vue";
import type { Wanted } from "./ExportDialog.vue";
import FindField from "./FindField.vue";
import MoreMenu from "./MoreMenu.vue";
import PageSteps from "./PageSteps.vue";
import StateNote from "./StateNote.vue";
import { keys } from "../queries";
import { many } from "../counted";

type Student = Schemas["StudentRow"];
const props = defineProps<{ page: Schemas["ClassPage"] }>();
const emit = defineEmits<{ changed: [page: Schemas["ClassPage"]]; left: []; takeAway: [wanted: Wanted] }>();
const client = useQueryClient();
const { busy, trouble, act, clear } = useAct();
const asking = ref<"code" | "leave" | "wipe" | null>(null);
const student = ref<Student | null>(null);
const goes = ref<Schemas["StudentGoes"] | null>(null);
const here = () => ({ class_id: props.page.id, student_id: student.value?.id ?? 0 });

function ask(what: NonNullable<typeof asking.value>, about: Student): void {
  clear();
  student.value = about;
  asking.value = what;
}
async function newCode(): Promise<void> {
  const page = await act(() => post("/api/classes/{class_id}/students/{student_id}/code", here()));
  if (!page) return;
  asking.value = null;
  emit("changed", page);
}
async function takeOut(): Promise<void> {
  if (!(await act(() => remove("/api/classes/{class_id}/students/{student_id}", here())))) return;
  asking.value = null;
  emit("left");
}
async function askToWipe(one: Student): Promise<void> {
  goes.value = null;
  ask("wipe", one);
  goes.value =
    (await act(() => get("/api/classes/students/{student_id}/deletion", { student_id: one.id }))) ?? null;
}
async function wipe(): Promise<void> {
  const { student_id } = here();
  if (!(await act(() => remove("/api/classes/students/{student_id}", { student_id })))) return;
  asking.value = null;
  client.removeQueries({ queryKey: keys.results() });
  emit("left");
}
const codes = computed(() => props.page.students.filter((s) => s.code).length);
const present = computed(() => props.page.students);
const list = useListing(present, { textOf: (s) => `${s.name} ${s.sign_in}`, per: 30 });
const { find, page: part, pages, shown, count, first } = list;
const itemsOf = (s: Student) => [
  { word: "New password", act: () => ask("code", s), off: !!s.code },
  { word: "Remove from class", act: () => ask("leave", s), off: !present.value.includes(s) },
  {
    word: "Download student data",
    act: () =>
      emit("takeAway", { kind: "student", number: s.id, title: `Data of ${s.name}`, unit: "drawings" }),
  },
  { word: "Delete student data", ends: true, act: () => askToWipe(s) },
];
</script>

<template>
  <section>
    <div class="mb-2 flex flex-wrap items-center gap-3">
      <h2>Students</h2>
      <FindField v-if="present.length > 8" v-model="find" label="Find a student" />
      <RouterLink v-if="codes" :to="`/classes/${page.id}/slips`" class="ml-auto">
        Print {{ many(codes, "sign-in card") }}
      </RouterLink>
    </div>
    <StateNote v-if="!page.students.length">No students yet. Share the code, or add a roster.</StateNote>
    <StateNote v-else-if="!shown.length">Nothing found. Try fewer words.</StateNote>
    <ul v-else class="paper divide-y divide-rule">
      <li
        v-for="s in shown"
        :key="s.id"
        class="grid grid-cols-[minmax(0,1fr)_auto] items-center gap-x-4 gap-y-1 px-4 py-2 sm:grid-cols-[minmax(0,1fr)_10rem_9.5rem_auto]"
      >
        <span class="truncate font-semibold" :title="s.name">{{ s.name }}</span>
        <span class="truncate text-right text-ink2 sm:text-left" :title="s.sign_in">{{ s.sign_in }}</span>
        <b v-if="s.code" class="text-sm tracking-wide" title="Code for choosing a password">{{ s.code }}</b>
        <span v-else></span>
        <MoreMenu small :items="itemsOf(s)" :label="`More about ${s.name}`" />
      </li>
    </ul>
    <PageSteps v-model="part" :first="first" :shown="shown.length" :count="count" :pages="pages" />
    <template v-if="page.left.length">
      <h3 class="mt-5 mb-2 font-semibold">Removed</h3>
      <ul class="paper divide-y divide-rule">
        <li v-for="s in page.left" :key="s.id" class="flex items-center gap-4 px-4 py-2 text-ink2">
          <span class="min-w-0 flex-1 truncate" :title="s.name">{{ s.name }}</span>
          <span class="truncate">{{ s.sign_in }}</span>
          <MoreMenu small :items="itemsOf(s).slice(2)" :label="`More about ${s.name}`" />
        </li>
      </ul>
      <p class="mt-1 text-sm text-ink2">
        Their drawings stay readable to you and to them. The code or a roster brings them back.
      </p>
    </template>
    <template v-if="page.asked.length">
      <h3 class="mt-5 mb-2 font-semibold">Asked to join</h3>
      <ul class="paper divide-y divide-rule">
        <li v-for="a in page.asked" :key="a.sign_in" class="flex items-center gap-3 px-4 py-2 text-ink2">
          <span class="min-w-0 flex-1 truncate">{{ a.called }}</span>
          <span>{{ a.sign_in }}</span>
        </li>
      </ul>
      <p class="mt-1 text-sm text-ink2">
        They have accounts with another instructor. They can answer under My work.
      </p>
    </template>
    <AskDialog
      :open="asking === 'wipe'"
      :title="`Delete the data of ${student?.name}?`"
      word="Delete student data"
      ends
      :busy="busy || !goes"
      :trouble="trouble"
      @close="asking = null"
      @yes="wipe"
    >
      <p v-if="goes">
        This deletes {{ many(goes.attempts, "drawing") }} at {{ many(goes.issues, "exercise") }} with every
        mark and comment, and the place in {{ goes.classes.join(", ") }}.
        {{
          goes.account
            ? `The account ${goes.sign_in} is deleted, too.`
            : `The account ${goes.sign_in} stays: it is in use with another instructor.`
        }}
      </p>
      <p>You cannot undo this. Older backups still hold it. The record shows it without a name.</p>
    </AskDialog>
    <AskDialog
      :open="asking === 'code'"
      :title="`A new password for ${student?.name}?`"
      word="Create code"
      :busy="busy"
      :trouble="trouble"
      @close="asking = null"
      @yes="newCode"
    >
      <p>You get a code to hand over. The old password works until the code is used.</p>
    </AskDialog>
    <AskDialog
      :open="asking === 'leave'"
      :title="`Remove ${student?.name} from the class?`"
      word="Remove student"
      :busy="busy"
      :trouble="trouble"
      @close="asking = null"
      @yes="takeOut"
    >
      <p>
        The account and all drawings are kept, readable to you and to them. They can join again with the code.
      </p>
    </AskDialog>
  </section>
</template>
