<script setup lang="ts">
import { useQuery, useQueryClient } from "@tanstack/vue-query";
import { computed, ref, watch } from "vue";
import { onBeforeRouteLeave, useRoute, useRouter } from "vue-router";
import { get, type Schemas } from "../api/client";
import { about, said, valueAt } from "../changes";
import AppBar from "../components/AppBar.vue";
import DrawingFiles from "../components/DrawingFiles.vue";
import DrawingSheet from "../components/DrawingSheet.vue";
import ExerciseMenu from "../components/ExerciseMenu.vue";
import IssueDialog from "../components/IssueDialog.vue";
import ChargesPanel from "../components/ChargesPanel.vue";
import ProofPanel from "../components/ProofPanel.vue";
import RuleSettings from "../components/RuleSettings.vue";
import SheetPrint from "../components/SheetPrint.vue";
import StateNote from "../components/StateNote.vue";
import WhatCounts from "../components/WhatCounts.vue";
import { when } from "../times";
import type { Rules } from "../rules";
import { useSession } from "../session";
import { useTitle } from "../title";
import { contentOf, useExercise, type Page } from "../useExercise";
import { useKeys } from "../useKeys";
import { useProof } from "../useProof";
import { keys } from "../queries";

const route = useRoute();
const router = useRouter();
const client = useQueryClient();
const id = ref(Number(route.params.id));
const { data, isPending, error, refetch } = useQuery({
  queryKey: computed(() => keys.exercise(id.value)),
  queryFn: () => get("/api/exercises/{revision_id}", { revision_id: id.value }),
});

const exercise = useExercise((page) => {
  client.setQueryData(keys.exercise(page.revision_id), page);
  void client.invalidateQueries({ queryKey: keys.exercises });
  if (page.revision_id === id.value) return;
  // an issued revision stays; what was changed, and what can be undone, goes on in the next one
  id.value = page.revision_id;
  void router.replace(`/exercises/${page.revision_id}`);
});
const { mine, past, status, failing, trouble, notice, meeting, unsaved, undo, held } = exercise;
const rules = computed(() => mine.value?.rules ?? null);
watch(
  data,
  (page) => {
    if (page && exercise.saved.value?.exercise_id !== page.exercise_id) exercise.begin(page);
  },
  { immediate: true },
);
watch(
  () => Number(route.params.id),
  (next) => {
    if (next && next !== id.value) id.value = next;
  },
);

/** Another start drawing or key came or went: everything may be new, so there is nothing to undo to. */
async function takeOver(page: Page): Promise<void> {
  client.setQueryData(keys.exercise(page.revision_id), page);
  exercise.begin(page);
  if (page.revision_id !== id.value) {
    id.value = page.revision_id;
    await router.replace(`/exercises/${page.revision_id}`);
  }
}
function change(work: (next: Rules) => void): void {
  exercise.change((next) => work(next.rules));
}
const { person } = useSession();
onBeforeRouteLeave(async () => {
  await exercise.flush();
  return (
    !unsaved.value.length ||
    !person.value ||
    window.confirm(
      "Not everything is saved yet. It stays in this browser and is sent when you come back here. Leave?",
    )
  );
});
const sheet = ref<InstanceType<typeof DrawingSheet> | null>(null);
const chosen = ref<string | null>(null);
const counts = ref<InstanceType<typeof WhatCounts> | null>(null);
const { proof, unproved, seen, tying, choices, sizes, chosenSize, pointed, tiesTo } = useProof(
  data,
  rules,
  chosen,
);
/** Shows where something is wrong in the key. */
function lookAt(flaw: Schemas["FlawOut"]): void {
  seen.value = { id: flaw.says, features: flaw.features, arrows: [], sizes: [] };
  sheet.value?.lookAt(flaw.at, Math.max(flaw.by * 8, 4));
}
const chosenIds = computed(() => {
  if (pointed.value) return pointed.value;
  const page = data.value;
  const one = rules.value?.requirements.find((r) => String(r.id) === chosen.value);
  const ids = new Set<string>();
  for (const f of one?.features ?? (chosen.value?.match(/^[a-z]/) ? [chosen.value] : [])) {
    ids.add(f);
    page?.scene.outlines.find((o) => o.id === f)?.members.forEach((m) => ids.add(m));
  }
  return ids;
});
const spots = computed(() => {
  const page = data.value;
  if (!page) return [];
  return page.scene.joints
    .filter((j) => chosenIds.value.has(j.id))
    .map((j) => ({ id: Number(j.id.slice(1)), at: j.at, verdict: "met" as const }));
});
function pick(feature: string): void {
  if (tiesTo(feature)) return;
  chosen.value = feature;
  counts.value?.show(feature);
}
useTitle(() => mine.value?.title);
useKeys(
  () => ({}),
  () => ({ z: undo }),
  () => issuing.value || asking.value,
);
const issuing = ref(false);
/** Whether the menu asks something. */
const asking = ref(false);
/** What is issued is what is saved. */
async function issue(): Promise<void> {
  await exercise.flush();
  issuing.value = !unsaved.value.length;
}
</script>

<template>
  <div class="flex min-h-dvh flex-col lg:h-dvh">
    <AppBar>
      <template #end>
        <span
          class="text-sm"
          :class="status === 'Not saved' ? 'font-semibold text-pencil' : 'text-ink2'"
          aria-live="polite"
          >{{ status }}</span
        >
        <button class="press-quiet" :disabled="!past.length" title="Ctrl+Z" @click="undo">Undo</button>
        <button
          class="press"
          :disabled="!data || data.archived || status === 'Not saved' || held"
          @click="issue"
        >
          Issue to a class
        </button>
        <ExerciseMenu v-if="data" :page="data" @open="(open) => (asking = open)" />
      </template>
    </AppBar>
    <div v-if="failing || trouble || notice" class="border-b border-rule bg-bar px-5 py-2 text-sm">
      <p v-if="failing" role="alert" class="font-semibold text-pencil">
        Not saved yet. {{ failing.split(". ")[0] }}. What you changed is kept in this browser and sent again
        by itself.
        <button class="ml-2 text-teal underline" @click="exercise.push">Save now</button>
      </p>
      <p v-if="trouble" role="alert" class="font-semibold text-pencil">{{ trouble }}</p>
      <p v-if="notice" role="status">
        {{ notice }}
        <template v-if="meeting && rules">
          You changed <b>{{ about(meeting.both, rules) }}</b> too, to something else.
          <span v-for="c in meeting.both.slice(0, 4)" :key="c.path.join()" class="block" data-contested>
            {{ about([c], rules) }}: theirs “{{ valueAt(contentOf(meeting.page), c.path) }}”, yours “{{
              said(c.after)
            }}”
          </span>
          <button class="ml-2 text-teal underline" @click="exercise.settle(true)">Keep mine</button>
          <button class="ml-2 text-teal underline" @click="exercise.settle(false)">Take theirs</button>
        </template>
        <button v-else class="ml-2 text-teal underline" @click="notice = ''">Dismiss</button>
      </p>
    </div>
    <main
      class="min-h-0 flex-1 p-4"
      :class="data && 'grid gap-4 lg:grid-cols-[minmax(0,1fr)_27rem] lg:grid-rows-[minmax(0,1fr)]'"
    >
      <template v-if="isPending || error">
        <h1 class="sr-only">Exercise</h1>
        <StateNote :loading="isPending" :error="error" :retry="() => refetch()" />
      </template>
      <template v-else-if="data && mine && rules">
        <h1 class="sr-only">{{ mine.title || data.title }}</h1>
        <section class="flex h-[60vh] min-h-[20rem] min-w-0 flex-col gap-2 lg:h-auto">
          <div class="min-h-0 flex-1">
            <DrawingSheet
              ref="sheet"
              label="The key on its sheet"
              :key-scene="data.scene"
              show="key"
              :chosen-key="chosenIds"
              :balloons="sizes.length ? sizes : spots"
              :chosen-balloon="chosenSize"
              :figures="sizes.length > 0"
              :arrows="seen?.arrows"
              :joints="tying ? data.scene.joints : []"
              annotations
              pickable
              @pick="pick"
              @balloon="(n) => (chosen = String(n))"
            />
          </div>
          <div class="flex flex-wrap items-center gap-x-4 gap-y-1 text-sm text-ink2">
            <button class="press-quiet !px-2.5 !py-1" @click="sheet?.fit()">Fit</button>
            <span>{{ data.key_name }} · {{ data.reading.written_as }} · {{ rules.unit }}</span>
            <a :href="`/api/exercises/${id}/sheet.png`" target="_blank" rel="noopener">Exercise sheet</a>
            <SheetPrint :base="`/api/exercises/${id}`" :unit="rules.unit" />
            <a :href="`/api/exercises/${id}/key.dxf`">Key file</a>
          </div>
        </section>
        <section class="flex min-h-0 min-w-0 flex-col lg:overflow-hidden">
          <div class="relative min-h-0 flex-1 p-1 lg:overflow-y-auto">
            <input
              :value="mine.title"
              aria-label="Title"
              class="w-full rounded border border-transparent bg-transparent text-[1.45rem] font-bold hover:border-rule"
              maxlength="160"
              @input="exercise.type('title', ($event.target as HTMLInputElement).value)"
              @change="exercise.push"
            />
            <p class="text-sm text-ink2">
              Revision {{ data.number }}
              <template v-if="data.issued_at">
                · issued {{ when(data.issued_at) }}. Title and instructions can be corrected; a change of what
                counts begins revision {{ data.number + 1 }}.
              </template>
              <template v-else> · not issued yet</template>
            </p>
            <p v-if="data.archived" class="mt-1 text-sm">
              Archived. What was issued goes on. To restore it, open More.
            </p>
            <p v-if="data.newest !== data.revision_id" class="mt-1 text-sm">
              There is a newer revision.
              <RouterLink :to="`/exercises/${data.newest}`">Go to it</RouterLink>
            </p>
            <p v-if="data.issues.length" class="mt-1 text-sm">
              <template v-for="(i, n) in data.issues" :key="i.id">
                <template v-if="n"> · </template>
                <RouterLink :to="`/issues/${i.id}`"
                  >{{ i.class_name }}: {{ i.handed_in }} of {{ i.students }}</RouterLink
                >
              </template>
            </p>
            <textarea
              :value="mine.text"
              aria-label="Instructions for students"
              placeholder="Instructions for students"
              class="field mt-2 text-[0.95rem]"
              rows="2"
              @input="exercise.type('text', ($event.target as HTMLTextAreaElement).value)"
              @change="exercise.push"
            ></textarea>
            <div v-if="held" class="mt-2 border-l-4 border-near bg-near-soft px-3 py-2 text-sm" role="status">
              This is issued: students see your correction at once. It goes into the record.
              <div class="mt-1.5 flex gap-2">
                <button class="press !px-2.5 !py-1" @click="exercise.putRight">Save correction</button>
                <button class="press-quiet !px-2.5 !py-1" @click="exercise.leaveWords">Cancel</button>
              </div>
            </div>
            <ProofPanel
              :proof="proof"
              :error="unproved"
              :rules="rules"
              :shown="seen"
              :tying="tying"
              :choices="choices"
              @show="(what) => (seen = what)"
              @tie="(what) => (tying = what)"
              @change="change"
            />
            <ChargesPanel
              :rules="rules"
              :revision="data.revision_id"
              :saved="status === 'Saved'"
              @change="change"
            />
            <RuleSettings :rules="rules" :layers="data.reading.layers" @change="change">
              <DrawingFiles :page="data" @changed="takeOver" />
            </RuleSettings>
            <WhatCounts
              ref="counts"
              v-model:chosen="chosen"
              :rules="rules"
              :chosen-ids="chosenIds"
              @change="change"
            />
            <section v-if="data.reading.oddities.length || data.flaws.length" class="mt-4" data-flaws>
              <h2>Noticed in the key</h2>
              <p v-if="data.flaws.length" class="text-sm text-ink2">
                No student loses marks for these. Correct them in the key before you issue.
              </p>
              <ul class="mt-1 space-y-1 text-sm">
                <li v-for="f in data.flaws" :key="f.says">
                  <button class="text-left text-teal underline" @click="lookAt(f)">{{ f.says }}</button>
                </li>
                <li v-for="o in data.reading.oddities" :key="o.says" class="text-ink2">{{ o.says }}</li>
              </ul>
            </section>
          </div>
        </section>
      </template>
    </main>
    <IssueDialog
      v-if="data"
      :open="issuing"
      :page="data"
      :proof="proof"
      @close="issuing = false"
      @issued="
        issuing = false;
        refetch();
      "
    />
  </div>
</template>
