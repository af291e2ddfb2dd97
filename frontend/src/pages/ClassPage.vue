<script setup lang="ts">
import { useQuery, useQueryClient } from "@tanstack/vue-query";
import { computed, ref } from "vue";
import { useRoute, useRouter } from "vue-router";
import { fileForm, get, patch, post, remove, upload, type Schemas } from "../api/client";
import AppBar from "../components/AppBar.vue";
import AskDialog from "../components/AskDialog.vue";
import ExportDialog, { type Wanted } from "../components/ExportDialog.vue";
import FileDrop from "../components/FileDrop.vue";
import FindField from "../components/FindField.vue";
import IssueTable from "../components/IssueTable.vue";
import MoreMenu from "../components/MoreMenu.vue";
import NameDialog from "../components/NameDialog.vue";
import PageSteps from "../components/PageSteps.vue";
import RosterDialog from "../components/RosterDialog.vue";
import StateNote from "../components/StateNote.vue";
import { useAct } from "../useAct";
import { useListing } from "../useListing";

type Student = Schemas["StudentRow"];
const id = Number(useRoute().params.id);
const here = { class_id: id };
const router = useRouter();
const client = useQueryClient();
const { data, isPending, error, refetch } = useQuery({
  queryKey: ["class", id],
  queryFn: () => get("/api/classes/{class_id}", here),
});
const { busy, trouble, said, act, clear } = useAct();
const rows = ref<Schemas["RosterRow"][] | null>(null);
/** What is asked about, of the class or of one student. */
const asking = ref<"code" | "leave" | "wipe" | "rename" | "copy" | "delete" | "end" | null>(null);
const student = ref<Student | null>(null);
const goes = ref<Schemas["StudentGoes"] | null>(null);
const classGoes = ref<Schemas["ClassGoes"] | null>(null);
const wanted = ref<Wanted | null>(null);
const withStudents = ref(true);

function ask(what: NonNullable<typeof asking.value>, about: Student | null = null): void {
  clear();
  student.value = about;
  asking.value = what;
}
async function show(work: () => Promise<Schemas["ClassPage"]>): Promise<void> {
  const page = await act(work);
  if (!page) return;
  client.setQueryData(["class", id], page);
  void client.invalidateQueries({ queryKey: ["classes"] });
  asking.value = null;
}
async function roster(file: File): Promise<void> {
  const taken = await act(() => upload("/api/classes/{class_id}/roster", here, fileForm(file)));
  if (taken) rows.value = taken.rows;
  await refetch();
}
const renew = () => show(() => post("/api/classes/{class_id}/code", here));
const newCode = () =>
  show(() =>
    post("/api/classes/{class_id}/students/{student_id}/code", { ...here, student_id: student.value?.id ?? 0 }),
  );
const rename = (name: string) => show(() => patch("/api/classes/{class_id}", here, { name }));
const end = (away: boolean) => show(() => post("/api/classes/{class_id}/archive", here, { away }));
async function takeOut(): Promise<void> {
  const one = student.value?.id ?? 0;
  const done = await act(() => remove("/api/classes/{class_id}/students/{student_id}", { ...here, student_id: one }));
  if (done) asking.value = null;
  await refetch();
}
async function askToWipe(one: Student): Promise<void> {
  goes.value = null;
  ask("wipe", one);
  goes.value = (await act(() => get("/api/classes/students/{student_id}/deletion", { student_id: one.id }))) ?? null;
}
async function wipe(): Promise<void> {
  const one = student.value?.id ?? 0;
  if (await act(() => remove("/api/classes/students/{student_id}", { student_id: one }))) asking.value = null;
  client.removeQueries({ queryKey: ["results"] });
  await refetch();
}
async function copy(name: string): Promise<void> {
  const made = await act(() => post("/api/classes/{class_id}/duplicate", here, { name, students: withStudents.value }));
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
const codes = computed(() => data.value?.students.filter((s) => s.code).length ?? 0);
const present = computed(() => data.value?.students ?? []);
const { find, page, pages, shown, count, first } = useListing(present, {
  textOf: (s) => `${s.name} ${s.sign_in}`,
  per: 30,
});
const issued = computed(() => data.value?.issues ?? []);
const tasks = useListing(issued, { textOf: (i) => i.title, per: 12, prefix: "issued-" });
const { page: taskPage, pages: taskPages, shown: tasksShown, count: taskCount, first: taskFirst } = tasks;
const items = computed(() => [
  { word: "Rename", act: () => ask("rename") },
  { word: "Duplicate", act: () => ask("copy") },
  { word: "Record", to: `/record?class=${id}` },
  {
    word: "Take everything away",
    act: () => (wanted.value = { kind: "class", number: id, title: "Everything of this class", unit: "drawings" }),
  },
  data.value?.archived
    ? { word: "Bring the class back", act: () => end(false) }
    : { word: "End the class", act: () => ask("end") },
  { word: "Delete the class", ends: true, act: askToDelete },
]);
const itemsOf = (s: Student) => [
  { word: "New password", act: () => ask("code", s), off: !!s.code },
  { word: "Take out of the class", act: () => ask("leave", s), off: !present.value.includes(s) },
  {
    word: "Take the data away",
    act: () => (wanted.value = { kind: "student", number: s.id, title: `Data of ${s.name}`, unit: "drawings" }),
  },
  { word: "Wipe the data", ends: true, act: () => askToWipe(s) },
];
const many = (n: number, one: string, more = `${one}s`) => `${n} ${n === 1 ? one : more}`;
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
        This class is over. Everything in it can be read; nothing is issued to it or handed in.
        <button class="text-teal underline" :disabled="busy" @click="end(false)">Bring it back</button>
      </p>
      <p v-if="trouble && !asking" role="alert" class="mt-2 text-pencil">{{ trouble }}</p>
      <p v-if="said" role="status" class="mt-2">{{ said }}</p>
      <div class="mt-5 grid gap-6 lg:grid-cols-[minmax(0,1fr)_22rem]">
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
          <section>
            <div class="mb-2 flex flex-wrap items-center gap-3">
              <h2>Students</h2>
              <FindField v-if="present.length > 8" v-model="find" label="Find a student" />
              <RouterLink v-if="codes" :to="`/classes/${id}/slips`" class="ml-auto">
                Print {{ codes === 1 ? "the slip" : `${codes} slips` }}
              </RouterLink>
            </div>
            <StateNote v-if="!data.students.length">Nobody yet. Share the code, or take in a roster.</StateNote>
            <StateNote v-else-if="!shown.length">Nobody is found. Look with fewer words.</StateNote>
            <ul v-else class="paper divide-y divide-rule">
              <li
                v-for="s in shown"
                :key="s.id"
                class="grid grid-cols-[minmax(0,1fr)_auto] items-center gap-x-4 gap-y-1 px-4 py-2 sm:grid-cols-[minmax(0,1fr)_10rem_9.5rem_auto]"
              >
                <span class="truncate font-semibold" :title="s.name">{{ s.name }}</span>
                <span class="truncate text-right text-ink2 sm:text-left" :title="s.sign_in">{{ s.sign_in }}</span>
                <b v-if="s.code" class="text-sm tracking-wide" title="Code to choose a password with">{{ s.code }}</b>
                <span v-else></span>
                <MoreMenu small :items="itemsOf(s)" :label="`More about ${s.name}`" />
              </li>
            </ul>
            <PageSteps v-model="page" :first="first" :shown="shown.length" :count="count" :pages="pages" />
            <template v-if="data.left.length">
              <h3 class="mt-5 mb-2 font-semibold">Taken out</h3>
              <ul class="paper divide-y divide-rule">
                <li v-for="s in data.left" :key="s.id" class="flex items-center gap-4 px-4 py-2 text-ink2">
                  <span class="min-w-0 flex-1 truncate" :title="s.name">{{ s.name }}</span>
                  <span class="truncate">{{ s.sign_in }}</span>
                  <MoreMenu small :items="itemsOf(s).slice(2)" :label="`More about ${s.name}`" />
                </li>
              </ul>
              <p class="mt-1 text-sm text-ink2">
                What they handed in stays readable to you and to them; with the code or a roster they come back.
              </p>
            </template>
            <template v-if="data.asked.length">
              <h3 class="mt-5 mb-2 font-semibold">Asked to join</h3>
              <ul class="paper divide-y divide-rule">
                <li v-for="a in data.asked" :key="a.sign_in" class="flex items-center gap-3 px-4 py-2 text-ink2">
                  <span class="min-w-0 flex-1 truncate">{{ a.called }}</span>
                  <span>{{ a.sign_in }}</span>
                </li>
              </ul>
              <p class="mt-1 text-sm text-ink2">
                They have accounts with another instructor, and find the question under My work.
              </p>
            </template>
          </section>
        </div>
        <aside v-if="!data.archived" class="space-y-4">
          <section class="paper p-5">
            <h2>Join code</h2>
            <p class="mt-2 text-3xl font-bold tracking-wider">{{ data.join_code }}</p>
            <p class="mt-1 text-sm text-ink2">Students enter it at “Join a class”.</p>
            <button class="press-quiet mt-3" :disabled="busy" @click="renew">Make a new code</button>
          </section>
          <section class="paper p-5">
            <h2>Roster</h2>
            <p class="mt-1 mb-3 text-sm text-ink2">
              A CSV file with a heading row: givenName, familyName and username, as school systems export it, or name
              and sign-in.
            </p>
            <FileDrop label="Choose the roster" accept=".csv,text/csv" :busy="busy" @file="roster" />
          </section>
        </aside>
      </div>
      <NameDialog
        :open="asking === 'rename'"
        title="Rename the class"
        label="Name"
        word="Rename it"
        :start="data.name"
        :most="120"
        :busy="busy"
        :trouble="trouble"
        @close="asking = null"
        @take="rename"
      >
        <p class="text-sm text-ink2">
          Title blocks of what was issued before go on asking for the name that the class had then.
        </p>
      </NameDialog>
      <NameDialog
        :open="asking === 'copy'"
        title="Duplicate the class"
        label="Name of the new class"
        word="Make it"
        :start="data.name"
        :most="120"
        :busy="busy"
        :trouble="trouble"
        @close="asking = null"
        @take="copy"
      >
        <label class="flex items-center gap-2">
          <input v-model="withStudents" type="checkbox" class="accent-teal" /> with its
          {{ many(present.length, "student") }}
        </label>
        <p class="text-sm text-ink2">Nothing that was issued or handed in comes along.</p>
      </NameDialog>
    </template>
    <RosterDialog :rows="rows" :class-id="id" @close="rows = null" />
    <ExportDialog :wanted="wanted" @close="wanted = null" />
    <AskDialog
      :open="asking === 'end'"
      title="End the class?"
      word="End it"
      :busy="busy"
      :trouble="trouble"
      @close="asking = null"
      @yes="end(true)"
    >
      <p>
        Everything in it stays readable to you and to its students. Nothing is issued to it or handed in any more, and
        its code stops working, until you bring it back.
      </p>
    </AskDialog>
    <AskDialog
      :open="asking === 'delete'"
      :title="`Delete ${data?.name} for good?`"
      word="Delete it for good"
      ends
      :busy="busy || !classGoes"
      :trouble="trouble"
      @close="asking = null"
      @yes="deleteAll"
    >
      <p v-if="classGoes">
        This goes: the class with {{ many(classGoes.students, "student") }},
        {{ many(classGoes.issues, "exercise") }} issued to it, and {{ many(classGoes.attempts, "drawing") }} with every
        mark and comment. {{ many(classGoes.accounts, "account goes", "accounts go") }} too: of students who are in no
        other class.
      </p>
      <p>It cannot be undone. Take everything away first if you may need it; backups made before still hold it.</p>
    </AskDialog>
    <AskDialog
      :open="asking === 'wipe'"
      :title="`Wipe the data of ${student?.name}?`"
      word="Wipe it for good"
      ends
      :busy="busy || !goes"
      :trouble="trouble"
      @close="asking = null"
      @yes="wipe"
    >
      <p v-if="goes">
        This goes: {{ many(goes.attempts, "drawing") }} at {{ many(goes.issues, "exercise") }} with every mark and
        comment, and the place in {{ goes.classes.join(", ") }}.
        {{
          goes.account
            ? `The account ${goes.sign_in} goes too.`
            : `The account ${goes.sign_in} stays: it is in use with another instructor.`
        }}
      </p>
      <p>It cannot be undone. Backups made before still hold it. The record says that it was done, without a name.</p>
    </AskDialog>
    <AskDialog
      :open="asking === 'code'"
      :title="`A new password for ${student?.name}?`"
      word="Make a code"
      :busy="busy"
      :trouble="trouble"
      @close="asking = null"
      @yes="newCode"
    >
      <p>You get a code to hand over. The old password goes on working until the code is used.</p>
    </AskDialog>
    <AskDialog
      :open="asking === 'leave'"
      :title="`Take ${student?.name} out of the class?`"
      word="Take out"
      :busy="busy"
      :trouble="trouble"
      @close="asking = null"
      @yes="takeOut"
    >
      <p>
        The account and everything handed in are kept, readable to you and to them. They can join again with the code.
      </p>
    </AskDialog>
  </main>
</template>
