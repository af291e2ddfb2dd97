<script setup lang="ts">
import { useQuery } from "@tanstack/vue-query";
import { ref } from "vue";
import { useRoute, useRouter } from "vue-router";
import { fileForm, get, post, type Schemas } from "../api/client";
import AppBar from "../components/AppBar.vue";
import { useTitle } from "../title";
import FileDrop from "../components/FileDrop.vue";
import SheetPrint from "../components/SheetPrint.vue";
import ToldList from "../components/ToldList.vue";
import StateNote from "../components/StateNote.vue";
import WhatWasUnderstood from "../components/WhatWasUnderstood.vue";
import { marks } from "../numbers";
import { dueWords, when } from "../times";
import { useAct } from "../useAct";
import { useUpload } from "../useUpload";
import { keys } from "../queries";

const id = Number(useRoute().params.id);
const router = useRouter();
const { data, isPending, error, refetch } = useQuery({
  queryKey: keys.task(id),
  queryFn: () => get("/api/work/{issue_id}", { issue_id: id }),
  refetchInterval: (query) => (query.state.data?.attempts.some((a) => a.state === "waiting") ? 1200 : false),
});
const intake = ref<Schemas["IntakeOut"] | null>(null);
const { busy: laying, share, trouble, send, stop } = useUpload();
const { busy: handing, trouble: refused, act } = useAct();

async function lay(file: File): Promise<void> {
  intake.value = null;
  refused.value = "";
  intake.value = (await send("/api/work/{issue_id}/intake", { issue_id: id }, fileForm(file))) ?? null;
}
async function handIn(): Promise<void> {
  const intake_id = intake.value?.intake_id;
  if (intake_id === undefined) return;
  const made = await act(() => post("/api/work/intakes/{intake_id}/hand-in", { intake_id }));
  if (made) await router.push(`/results/${made.attempt_id}`);
  else await refetch();
}
async function draw(): Promise<void> {
  const made = await act(() => post("/api/work/{issue_id}/board", { issue_id: id }));
  if (made) await router.push(`/boards/${made.board_id}`);
}
useTitle(() => data.value?.title);
</script>

<template>
  <AppBar />
  <main class="mx-auto max-w-7xl p-5 sm:p-6">
    <StateNote v-if="isPending || error" :loading="isPending" :error="error" :retry="() => refetch()" />
    <template v-else-if="data">
      <h1>{{ data.title }}</h1>
      <p class="text-ink2">
        {{ data.class_name }} ·
        {{
          data.closed_at && data.shut === "closed"
            ? `closed ${when(data.closed_at)}`
            : `due ${dueWords(data.due_at)}${data.allowed ? " for you" : ""}`
        }}
        · {{ data.tries_left }} of {{ data.tries }} {{ data.tries === 1 ? "try" : "tries" }} left
        <template v-if="data.revision > 1 || data.newer"> · revision {{ data.revision }}</template>
      </p>
      <p v-if="data.newer" class="mt-2 border-l-4 border-near bg-near-soft px-3 py-2">
        A newer revision replaced this one.
        <RouterLink :to="`/work/${data.newer}`">Open newer revision</RouterLink>
      </p>
      <div class="mt-4 grid grid-cols-[minmax(0,1fr)] gap-6 lg:grid-cols-[minmax(0,1fr)_24rem]">
        <section>
          <p class="mb-3 max-w-3xl whitespace-pre-line">{{ data.text }}</p>
          <p v-if="data.examines === 'sheet'" class="mb-3">
            Draw on the sheet layout of your file: this exercise is marked there, not in the model.
          </p>
          <p v-if="data.start_name" class="mb-3">
            Begin with the drawing that is given:
            <a :href="`/api/work/${id}/start`" class="font-semibold">{{ data.start_name }}</a>. Its objects
            are not marked; leave them as they are.
          </p>
          <a
            :href="`/api/work/${id}/sheet.png`"
            target="_blank"
            rel="noopener"
            title="Open the sheet in a tab"
          >
            <img :src="`/api/work/${id}/sheet.png`" :alt="`Sheet of ${data.title}`" class="paper w-full" />
          </a>
          <p class="mt-2 text-sm"><SheetPrint :base="`/api/work/${id}`" :unit="data.unit" /></p>
          <section class="paper mt-4 p-5">
            <h2 class="mb-2">Also asked, beyond the sheet</h2>
            <ToldList :work="data" />
          </section>
        </section>
        <aside class="space-y-5">
          <section class="paper p-5">
            <h2>Hand in</h2>
            <p v-if="data.left" class="mt-2 text-ink2">
              You are no longer in {{ data.class_name }}. What you handed in stays here to be read.
            </p>
            <p v-else-if="data.shut" class="mt-2 text-ink2">{{ data.shut_says }}</p>
            <template v-else>
              <p class="mt-1 mb-3 text-sm text-ink2">
                A DXF file of any version, SVG, or a document of steps. First you see what was understood of
                it; only then is it handed in.
                <b v-if="data.past_due" class="text-near">The date has passed; it will be marked as late.</b>
              </p>
              <p class="mb-3">
                <button class="press-quiet" :disabled="handing" @click="draw">Draw it on the board</button>
                <span class="ml-3 text-sm text-ink2">or hand in a file:</span>
              </p>
              <FileDrop
                :label="intake ? 'Choose another file' : 'Choose your drawing'"
                accept=".dxf,.svg,.txt,.json"
                :busy="laying"
                :share="share"
                @file="lay"
                @stop="stop"
              />
              <p
                v-if="trouble || refused"
                role="alert"
                class="mt-3 border-l-4 border-pencil bg-pencil-soft p-3"
              >
                {{ trouble || refused }} <span class="block text-sm text-ink2">No try was used up.</span>
              </p>
              <div v-if="intake" class="mt-4" aria-live="polite">
                <h3 class="font-semibold">What was understood of {{ intake.file_name }}</h3>
                <WhatWasUnderstood
                  class="mt-2"
                  :reading="intake.reading"
                  :scene="intake.scene"
                  :unit="data.unit"
                  :any-unit="data.any_unit"
                />
                <button class="press mt-4 w-full justify-center" :disabled="handing" @click="handIn">
                  Hand in · uses one try
                </button>
              </div>
            </template>
          </section>
          <section v-if="data.earlier.length">
            <h2 class="mb-2">Earlier revisions</h2>
            <ul class="paper divide-y divide-rule">
              <li v-for="e in data.earlier" :key="e.id">
                <RouterLink
                  :to="`/work/${e.id}`"
                  class="block px-4 py-2.5 text-ink no-underline hover:bg-teal-soft"
                >
                  <span class="flex justify-between gap-2">
                    <b>Revision {{ e.revision }}</b>
                    <b v-if="e.best !== null">{{ marks(e.best ?? 0) }} of {{ marks(e.possible ?? 0) }}</b>
                  </span>
                  <span class="block truncate text-sm text-ink2">
                    {{ e.handed_in ? `${e.handed_in} handed in` : "nothing handed in" }}
                  </span>
                </RouterLink>
              </li>
            </ul>
          </section>
          <section v-if="data.attempts.length">
            <h2 class="mb-2">Your tries</h2>
            <ul class="paper divide-y divide-rule">
              <li v-for="a in data.attempts" :key="a.attempt_id">
                <RouterLink
                  :to="`/results/${a.attempt_id}`"
                  class="block px-4 py-2.5 text-ink no-underline hover:bg-teal-soft"
                >
                  <span class="flex justify-between"
                    ><b>Try {{ a.number }}</b
                    ><b v-if="a.earned !== null">{{ marks(a.earned ?? 0) }} of {{ marks(a.possible ?? 0) }}</b
                    ><span v-else class="text-near">{{
                      a.state === "waiting"
                        ? "being marked …"
                        : a.state === "kept"
                          ? "with your instructor"
                          : "not marked"
                    }}</span></span
                  >
                  <span class="block truncate text-sm text-ink2">
                    {{ a.file_name }} · {{ when(a.handed_in_at)
                    }}<b v-if="a.late" class="text-near"> · late</b>
                  </span>
                </RouterLink>
              </li>
            </ul>
          </section>
        </aside>
      </div>
    </template>
  </main>
</template>
