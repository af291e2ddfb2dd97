<script setup lang="ts">
import { useQuery, useQueryClient } from "@tanstack/vue-query";
import { computed, ref } from "vue";
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
const asking = ref<Schemas["StudentRow"] | null>(null);
async function newCode(): Promise<void> {
  if (!asking.value) return;
  trouble.value = "";
  try {
    client.setQueryData(
      ["class", id],
      await post<Schemas["ClassPage"]>(`/classes/${id}/students/${asking.value.id}/code`),
    );
  } catch (why) {
    trouble.value = saysOf(why);
  }
  asking.value = null;
}
const codes = computed(() => data.value?.students.filter((s) => s.code).length ?? 0);
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
            <div class="mb-2 flex items-baseline justify-between gap-3">
              <h2>Students</h2>
              <RouterLink v-if="codes" :to="`/classes/${id}/slips`">
                Print {{ codes === 1 ? "the slip" : `${codes} slips` }}
              </RouterLink>
            </div>
            <p v-if="trouble" role="alert" class="mb-2 text-pencil">{{ trouble }}</p>
            <StateNote v-if="!data.students.length">Nobody yet. Share the code, or take in a roster.</StateNote>
            <ul v-else class="paper divide-y divide-rule">
              <li
                v-for="s in data.students"
                :key="s.id"
                class="grid grid-cols-[1fr_auto] items-center gap-x-4 gap-y-1 px-4 py-2 sm:grid-cols-[1fr_10rem_9.5rem_auto]"
              >
                <span class="font-semibold">{{ s.name }}</span>
                <span class="truncate text-right text-ink2 sm:text-left" :title="s.sign_in">{{ s.sign_in }}</span>
                <b v-if="s.code" class="text-sm tracking-wide" title="Code to choose a password with">{{ s.code }}</b>
                <button v-else class="text-left text-sm text-teal underline" @click="asking = s">New password</button>
                <button class="text-right text-sm text-teal underline" @click="leaving = s">Take out</button>
              </li>
            </ul>
            <p v-if="data.left.length" class="mt-2 text-sm text-ink2">
              Taken out: {{ data.left.map((s) => `${s.name} (${s.sign_in})`).join(", ") }}. What they handed in stays
              readable to you and to them; with the code or a roster they come back.
            </p>
            <template v-if="data.asked.length">
              <h3 class="mt-5 mb-2 font-semibold">Asked to join</h3>
              <ul class="paper divide-y divide-rule">
                <li v-for="a in data.asked" :key="a.sign_in" class="flex items-center gap-3 px-4 py-2 text-ink2">
                  <span class="flex-1">{{ a.called }}</span>
                  <span>{{ a.sign_in }}</span>
                </li>
              </ul>
              <p class="mt-1 text-sm text-ink2">
                They have accounts with another instructor, and find the question under My work.
              </p>
            </template>
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
          </section>
        </aside>
      </div>
    </template>
    <DialogSheet :open="rows !== null" title="The roster was taken in" wide @close="rows = null">
      <p class="mt-2 text-ink2">
        New accounts have a code with which each student chooses a password. Codes stand beside the students until they
        are used.
      </p>
      <div class="paper mt-3 max-h-[50vh] overflow-y-auto">
        <table class="w-full text-sm">
          <thead>
            <tr>
              <th class="cell-head">Row</th>
              <th class="cell-head">Name</th>
              <th class="cell-head">Sign-in</th>
              <th class="cell-head">Code</th>
              <th class="cell-head">Outcome</th>
            </tr>
          </thead>
          <tbody class="divide-y divide-rule">
            <tr v-for="r in rows" :key="r.line">
              <td class="px-2.5 py-1.5 text-ink2">{{ r.line }}</td>
              <td class="px-2.5">{{ r.name }}</td>
              <td class="px-2.5">{{ r.sign_in }}</td>
              <td class="px-2.5 font-semibold">{{ r.code }}</td>
              <td class="px-2.5" :class="r.outcome === 'left-out' && 'text-pencil'">{{ r.says }}</td>
            </tr>
          </tbody>
        </table>
      </div>
      <div class="mt-4 flex justify-end gap-2">
        <RouterLink v-if="rows?.some((r) => r.code)" :to="`/classes/${id}/slips`" class="press-quiet no-underline">
          Print slips
        </RouterLink>
        <button class="press" @click="rows = null">Close</button>
      </div>
    </DialogSheet>
    <DialogSheet :open="asking !== null" :title="`A new password for ${asking?.name}?`" @close="asking = null">
      <p class="mt-2 text-ink2">
        You get a code to hand over. The old password goes on working until the code is used.
      </p>
      <div class="mt-4 flex justify-end gap-2">
        <button class="press-quiet" @click="asking = null">Cancel</button>
        <button class="press" @click="newCode">Make a code</button>
      </div>
    </DialogSheet>
    <DialogSheet :open="leaving !== null" :title="`Take ${leaving?.name} out of the class?`" @close="leaving = null">
      <p class="mt-2 text-ink2">
        The account and everything handed in are kept, readable to you and to them. They can join again with the code.
      </p>
      <div class="mt-4 flex justify-end gap-2">
        <button class="press-quiet" @click="leaving = null">Cancel</button>
        <button class="press" @click="takeOut">Take out</button>
      </div>
    </DialogSheet>
  </main>
</template>
