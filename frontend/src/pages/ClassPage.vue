<script setup lang="ts">
import { useQuery, useQueryClient } from "@tanstack/vue-query";
import { ref } from "vue";
import { useRoute } from "vue-router";
import { fileForm, get, post, remove, saysOf, type Schemas } from "../api/client";
import AppBar from "../components/AppBar.vue";
import DialogSheet from "../components/DialogSheet.vue";
import FileDrop from "../components/FileDrop.vue";
import IssueTable from "../components/IssueTable.vue";
import StateNote from "../components/StateNote.vue";

const id = Number(useRoute().params.id);
const client = useQueryClient();
const { data, isPending, error, refetch } = useQuery({
  queryKey: ["class", id],
  queryFn: () => get<Schemas["ClassPage"]>(`/classes/${id}`),
});
const trouble = ref("");
const busy = ref(false);
const rows = ref<Schemas["RosterRow"][] | null>(null);
const leaving = ref<Schemas["StudentRow"] | null>(null);

async function roster(file: File): Promise<void> {
  busy.value = true;
  trouble.value = "";
  try {
    rows.value = (await post<Schemas["RosterOut"]>(`/classes/${id}/roster`, fileForm(file))).rows;
    await refetch();
  } catch (why) {
    trouble.value = saysOf(why);
  } finally {
    busy.value = false;
  }
}
async function renew(): Promise<void> {
  client.setQueryData(["class", id], await post<Schemas["ClassPage"]>(`/classes/${id}/code`));
}
async function takeOut(): Promise<void> {
  if (!leaving.value) return;
  await remove(`/classes/${id}/students/${leaving.value.id}`).catch((why) => (trouble.value = saysOf(why)));
  leaving.value = null;
  await refetch();
}
function savePasswords(): void {
  const made = rows.value?.filter((r) => r.password) ?? [];
  const quoted = (s: string) => `"${s.replace(/"/g, '""')}"`;
  const csv = [
    "name,sign-in,password",
    ...made.map((r) => [r.name, r.sign_in, r.password ?? ""].map(quoted).join(",")),
  ];
  const link = document.createElement("a");
  link.href = URL.createObjectURL(new Blob([csv.join("\r\n") + "\r\n"], { type: "text/csv" }));
  link.download = "passwords.csv";
  link.click();
  URL.revokeObjectURL(link.href);
}
</script>

<template>
  <AppBar />
  <main class="mx-auto max-w-6xl p-5 sm:p-6">
    <StateNote v-if="isPending || error" :loading="isPending" :error="error" :retry="() => refetch()" />
    <template v-else-if="data">
      <h1>{{ data.name }}</h1>
      <div class="mt-5 grid gap-6 lg:grid-cols-[1fr_22rem]">
        <div class="space-y-6">
          <section>
            <h2 class="mb-2">Issued to this class</h2>
            <IssueTable v-if="data.issues.length" :issues="data.issues" />
            <StateNote v-else>Nothing yet. Open an exercise and issue it to this class.</StateNote>
          </section>
          <section>
            <h2 class="mb-2">Students</h2>
            <StateNote v-if="!data.students.length">Nobody yet. Share the code, or take in a roster.</StateNote>
            <ul v-else class="paper divide-y divide-rule">
              <li v-for="s in data.students" :key="s.id" class="flex items-center gap-3 px-4 py-2">
                <span class="flex-1 font-semibold">{{ s.name }}</span>
                <span class="text-ink2">{{ s.sign_in }}</span>
                <button class="text-sm text-teal underline" @click="leaving = s">Take out</button>
              </li>
            </ul>
          </section>
        </div>
        <aside class="space-y-4">
          <section class="paper p-5">
            <h2>Join code</h2>
            <p class="mt-2 text-3xl font-bold tracking-wider">{{ data.join_code }}</p>
            <p class="mt-1 text-sm text-ink2">Students enter it at “Join a class”.</p>
            <button class="press-quiet mt-3" @click="renew">Make a new code</button>
          </section>
          <section class="paper p-5">
            <h2>Roster</h2>
            <p class="mt-1 mb-3 text-sm text-ink2">
              A CSV file with a heading row: givenName, familyName and username, as school systems export it, or name
              and sign-in.
            </p>
            <FileDrop label="Choose the roster" accept=".csv,text/csv" :busy="busy" @file="roster" />
            <p v-if="trouble" role="alert" class="mt-3 text-pencil">{{ trouble }}</p>
          </section>
        </aside>
      </div>
    </template>
    <DialogSheet :open="rows !== null" title="The roster was taken in" wide @close="rows = null">
      <p class="mt-2 text-ink2">Passwords of new accounts are shown this once. Save them before you close this.</p>
      <div class="paper mt-3 max-h-[50vh] overflow-y-auto">
        <table class="w-full text-sm">
          <thead>
            <tr>
              <th class="cell-head">Row</th>
              <th class="cell-head">Name</th>
              <th class="cell-head">Sign-in</th>
              <th class="cell-head">Password</th>
              <th class="cell-head">Outcome</th>
            </tr>
          </thead>
          <tbody class="divide-y divide-rule">
            <tr v-for="r in rows" :key="r.line">
              <td class="px-2.5 py-1.5 text-ink2">{{ r.line }}</td>
              <td class="px-2.5">{{ r.name }}</td>
              <td class="px-2.5">{{ r.sign_in }}</td>
              <td class="px-2.5 font-semibold">{{ r.password }}</td>
              <td class="px-2.5" :class="r.outcome === 'left-out' && 'text-pencil'">{{ r.says }}</td>
            </tr>
          </tbody>
        </table>
      </div>
      <div class="mt-4 flex justify-end gap-2">
        <button v-if="rows?.some((r) => r.password)" class="press-quiet" @click="savePasswords">
          Save the passwords
        </button>
        <button class="press" @click="rows = null">Close</button>
      </div>
    </DialogSheet>
    <DialogSheet :open="leaving !== null" :title="`Take ${leaving?.name} out of the class?`" @close="leaving = null">
      <p class="mt-2 text-ink2">The account and everything handed in are kept. They can join again with the code.</p>
      <div class="mt-4 flex justify-end gap-2">
        <button class="press-quiet" @click="leaving = null">Cancel</button>
        <button class="press" @click="takeOut">Take out</button>
      </div>
    </DialogSheet>
  </main>
</template>
