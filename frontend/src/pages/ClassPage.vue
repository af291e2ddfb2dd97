<script setup lang="ts">
import { useQuery, useQueryClient } from "@tanstack/vue-query";
import { computed, ref } from "vue";
import { useRoute, useRouter } from "vue-router";
import { fileForm, get, patch, post, remove, type Schemas } from "../api/client";
import AppBar from "../components/AppBar.vue";
import { useTitle } from "../title";
import AskDialog from "../components/AskDialog.vue";
import ClassRoom from "../components/ClassRoom.vue";
import ClassStudents from "../components/ClassStudents.vue";
import ExportDialog, { type Wanted } from "../components/ExportDialog.vue";
import FileDrop from "../components/FileDrop.vue";
import IssueTable from "../components/IssueTable.vue";
import MoreMenu from "../components/MoreMenu.vue";
import NameDialog from "../components/NameDialog.vue";
import PageSteps from "../components/PageSteps.vue";
import RosterDialog from "../components/RosterDialog.vue";
import StateNote from "../components/StateNote.vue";
import { useAct } from "../useAct";
import { useListing } from "../useListing";
import { useUpload } from "../useUpload";
import { keys } from "../queries";
import { many } from "../counted";

const id = Number(useRoute().params.id);
const here = { class_id: id };
const router = useRouter();
const client = useQueryClient();
const { data, isPending, error, refetch } = useQuery({
  queryKey: keys.class(id),
  queryFn: () => get("/api/classes/{class_id}", here),
});
const { busy, trouble, said, act, clear } = useAct();
const rows = ref<Schemas["RosterRow"][] | null>(null);
/** What is asked about. */
const asking = ref<"rename" | "copy" | "delete" | "end" | null>(null);
const classGoes = ref<Schemas["ClassGoes"] | null>(null);
const wanted = ref<Wanted | null>(null);
const withStudents = ref(true);

function ask(what: NonNullable<typeof asking.value>): void {
  clear();
  asking.value = what;
}
function show(page: Schemas["ClassPage"]): void {
  client.setQueryData(keys.class(id), page);
  void client.invalidateQueries({ queryKey: keys.classes });
  asking.value = null;
}
async function send(work: () => Promise<Schemas["ClassPage"]>): Promise<void> {
  const page = await act(work);
  if (page) show(page);
}
const { busy: taking, share, trouble: notTaken, send: sendFile, stop } = useUpload();
async function roster(file: File): Promise<void> {
  const taken = await sendFile("/api/classes/{class_id}/roster", here, fileForm(file));
  if (taken) rows.value = taken.rows;
  await refetch();
}
const renew = () => send(() => post("/api/classes/{class_id}/code", here));
const rename = (name: string) => send(() => patch("/api/classes/{class_id}", here, { name }));
const giveRoom = (student_mb: number) => send(() => patch("/api/classes/{class_id}", here, { student_mb }));
const end = (away: boolean) => send(() => post("/api/classes/{class_id}/archive", here, { away }));
async function copy(name: string): Promise<void> {
  const made = await act(() =>
    post("/api/classes/{class_id}/duplicate", here, { name, students: withStudents.value }),
  );
  if (made) await router.push(`/classes/${made.id}`);
}
async function askToDelete(): Promise<void> {
  classGoes.value = null;
  ask("delete");
  classGoes.value = (await act(() => get("/api/classes/{class_id}/deletion", here))) ?? null;
}
async function deleteAll(): Promise<void> {
  if (!(await act(() => remove("/api/classes/{class_id}", here)))) return;
  client.clear();
  await router.push("/classes");
}
const issued = computed(() => data.value?.issues ?? []);
const tasks = useListing(issued, { textOf: (i) => i.title, per: 12, prefix: "issued-" });
const { page: taskPage, pages: taskPages, shown: tasksShown, count: taskCount, first: taskFirst } = tasks;
const items = computed(() => [
  { word: "Rename", act: () => ask("rename") },
  { word: "Duplicate", act: () => ask("copy") },
  { word: "Record", to: `/record?class=${id}` },
  {
    word: "Download class data",
    act: () => (wanted.value = { kind: "class", number: id, title: "Class data", unit: "drawings" }),
  },
  data.value?.archived
    ? { word: "Restore class", act: () => end(false) }
    : { word: "Archive class", act: () => ask("end") },
  { word: "Delete class", ends: true, act: askToDelete },
]);
useTitle(() => data.value?.name);
</script>

<template>
  <AppBar />
  <main class="mx-auto max-w-6xl p-5 sm:p-6">
    <StateNote v-if="isPending || error" :loading="isPending" :error="error" :retry="() => refetch()" />
    <template v-else-if="data">
      <div class="flex items-start justify-between gap-4">
        <h1 class="min-w-0 break-words">{{ data.name }}</h1>
        <MoreMenu :items="items" label="More about this class" />
      </div>
      <p v-if="data.archived" class="mt-1 text-ink2">
        This class is archived. Everything in it can be read; nothing can be issued or handed in.
        <button class="text-teal underline" :disabled="busy" @click="end(false)">Restore class</button>
      </p>
      <p v-if="trouble && !asking" role="alert" class="mt-2 text-pencil">{{ trouble }}</p>
      <p v-if="said" role="status" class="mt-2">{{ said }}</p>
      <div class="mt-5 grid grid-cols-[minmax(0,1fr)] gap-6 lg:grid-cols-[minmax(0,1fr)_22rem]">
        <div class="min-w-0 space-y-6">
          <section>
            <h2 class="mb-2">Issued to this class</h2>
            <IssueTable v-if="data.issues.length" :issues="tasksShown" of-one-class />
            <StateNote v-else>Nothing yet. Open an exercise and issue it to this class.</StateNote>
            <PageSteps
              v-model="taskPage"
              :first="taskFirst"
              :shown="tasksShown.length"
              :count="taskCount"
              :pages="taskPages"
            />
          </section>
          <ClassStudents :page="data" @changed="show" @left="refetch" @take-away="(w) => (wanted = w)" />
        </div>
        <aside v-if="!data.archived" class="space-y-4">
          <section class="paper p-5">
            <h2>Join code</h2>
            <p class="mt-2 text-3xl font-bold tracking-wider">{{ data.join_code }}</p>
            <p class="mt-1 text-sm text-ink2">Students enter it at “Join a class”.</p>
            <button class="press-quiet mt-3" :disabled="busy" @click="renew">New code</button>
          </section>
          <section class="paper p-5">
            <h2>Roster</h2>
            <p class="mt-1 mb-3 text-sm text-ink2">
              A CSV file with a heading row: givenName, familyName and username, as school systems export it,
              or name and sign-in.
            </p>
            <FileDrop
              label="Choose the roster"
              accept=".csv,text/csv"
              :busy="taking"
              :share="share"
              @file="roster"
              @stop="stop"
            />
            <p v-if="notTaken" role="alert" class="mt-2 text-pencil">{{ notTaken }}</p>
          </section>
          <ClassRoom :room="data.room" :busy="busy" @give="giveRoom" />
        </aside>
      </div>
      <NameDialog
        :open="asking === 'rename'"
        title="Rename this class"
        label="Name"
        word="Rename class"
        :start="data.name"
        :most="120"
        :busy="busy"
        :trouble="trouble"
        @close="asking = null"
        @take="rename"
      >
        <p class="text-sm text-ink2">Title blocks of exercises issued before still ask for the old name.</p>
      </NameDialog>
      <NameDialog
        :open="asking === 'copy'"
        title="Duplicate this class"
        label="Name of the new class"
        word="Duplicate class"
        :start="data.name"
        :most="120"
        :busy="busy"
        :trouble="trouble"
        @close="asking = null"
        @take="copy"
      >
        <label class="flex items-center gap-2">
          <input v-model="withStudents" type="checkbox" class="accent-teal" /> with its
          {{ many(data.students.length, "student") }}
        </label>
        <p class="text-sm text-ink2">Issued exercises and drawings are not copied.</p>
      </NameDialog>
    </template>
    <RosterDialog :rows="rows" :class-id="id" @close="rows = null" />
    <ExportDialog :wanted="wanted" @close="wanted = null" />
    <AskDialog
      :open="asking === 'end'"
      title="Archive this class?"
      word="Archive class"
      :busy="busy"
      :trouble="trouble"
      @close="asking = null"
      @yes="end(true)"
    >
      <p>
        Everything in it stays readable to you and to its students. Nothing can be issued or handed in, and
        its code stops working, until you restore it.
      </p>
    </AskDialog>
    <AskDialog
      :open="asking === 'delete'"
      :title="`Delete ${data?.name} for good?`"
      word="Delete class"
      ends
      :busy="busy || !classGoes"
      :trouble="trouble"
      @close="asking = null"
      @yes="deleteAll"
    >
      <p v-if="classGoes">
        This deletes the class with {{ many(classGoes.students, "student") }},
        {{ many(classGoes.issues, "exercise") }} issued to it, and
        {{ many(classGoes.attempts, "drawing") }} with every mark and comment. Of students who are in no other
        class, {{ many(classGoes.accounts, "account is deleted", "accounts are deleted") }}, too.
      </p>
      <p>
        You cannot undo this. Download class data first if you may need it; backups made before still hold it.
      </p>
    </AskDialog>
  </main>
</template>
