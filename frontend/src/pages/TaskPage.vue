<script setup lang="ts">
import { useQuery } from "@tanstack/vue-query";
import { ref } from "vue";
import { useRoute, useRouter } from "vue-router";
import { fileForm, get, post, saysOf, type Schemas } from "../api/client";
import AppBar from "../components/AppBar.vue";
import DrawingSheet from "../components/DrawingSheet.vue";
import FileDrop from "../components/FileDrop.vue";
import StateNote from "../components/StateNote.vue";
import { away, marks, when } from "../numbers";

const id = Number(useRoute().params.id);
const router = useRouter();
const { data, isPending, error, refetch } = useQuery({
  queryKey: ["work", id],
  queryFn: () => get<Schemas["WorkPage"]>(`/work/${id}`),
  refetchInterval: (query) => (query.state.data?.attempts.some((a) => a.state === "waiting") ? 1200 : false),
});
const intake = ref<Schemas["IntakeOut"] | null>(null);
const trouble = ref("");
const busy = ref(false);

async function lay(file: File): Promise<void> {
  busy.value = true;
  trouble.value = "";
  intake.value = null;
  try {
    intake.value = await post<Schemas["IntakeOut"]>(`/work/${id}/intake`, fileForm(file));
  } catch (why) {
    trouble.value = saysOf(why);
  } finally {
    busy.value = false;
  }
}
async function handIn(): Promise<void> {
  if (!intake.value) return;
  busy.value = true;
  try {
    const made = await post<Schemas["HandedIn"]>(`/work/intakes/${intake.value.intake_id}/hand-in`);
    await router.push(`/results/${made.attempt_id}`);
  } catch (why) {
    trouble.value = saysOf(why);
  } finally {
    busy.value = false;
  }
}
const placements: Record<string, string> = {
  "as-drawn": "Coordinates count: draw it where the sheet says.",
  slide: "It may stand anywhere; only its sizes and directions count.",
  "slide-and-turn": "It may stand anywhere and in any direction.",
};
const counted = ["edges", "arcs", "circles", "texts"] as const;
</script>

<template>
  <AppBar />
  <main class="mx-auto max-w-7xl p-5 sm:p-6">
    <StateNote v-if="isPending || error" :loading="isPending" :error="error" :retry="() => refetch()" />
    <template v-else-if="data">
      <h1>{{ data.title }}</h1>
      <p class="text-ink2">
        {{ data.class_name }} · due {{ when(data.due_at) }} ({{ away(data.due_at) }}) · {{ data.tries_left }} of
        {{ data.tries }} {{ data.tries === 1 ? "try" : "tries" }} left
      </p>
      <div class="mt-4 grid gap-6 lg:grid-cols-[minmax(0,1fr)_24rem]">
        <section>
          <p class="mb-3 max-w-3xl whitespace-pre-line">{{ data.text }}</p>
          <p v-if="data.examines === 'sheet'" class="mb-3">
            Draw on the sheet layout of your file: this exercise looks at the sheet, not at the model.
          </p>
          <p v-if="data.start_name" class="mb-3">
            Begin with the drawing that is given:
            <a :href="`/api/work/${id}/start`" class="font-semibold">{{ data.start_name }}</a>. What is in it is not
            marked; leave it as it is.
          </p>
          <a
            :href="`/api/work/${id}/sheet.png`"
            target="_blank"
            rel="noopener"
            title="Open the sheet by itself, to print it"
          >
            <img :src="`/api/work/${id}/sheet.png`" :alt="`Sheet of ${data.title}`" class="paper w-full" />
          </a>
          <p class="mt-2 text-sm text-ink2">
            Unit {{ data.unit }}. {{ placements[data.placement] }}
            <template v-if="data.layers.length">Layers: {{ data.layers.join(", ") }}.</template>
          </p>
        </section>
        <aside class="space-y-5">
          <section class="paper p-5">
            <h2>Hand in</h2>
            <p v-if="data.left" class="mt-2 text-ink2">
              You are no longer in {{ data.class_name }}. What you handed in stays here to be read.
            </p>
            <template v-else-if="data.tries_left > 0">
              <p class="mt-1 mb-3 text-sm text-ink2">
                A DXF file of any version, or SVG. First you see what was understood of it; only then is it handed in.
                <b v-if="data.past_due" class="text-near">The date has passed; it will be marked as late.</b>
              </p>
              <FileDrop
                :label="intake ? 'Choose another file' : 'Choose your drawing'"
                accept=".dxf,.svg"
                :busy="busy"
                @file="lay"
              />
              <p v-if="trouble" role="alert" class="mt-3 border-l-4 border-pencil bg-pencil-soft p-3">
                {{ trouble }} <span class="block text-sm text-ink2">No try was used up.</span>
              </p>
              <div v-if="intake" class="mt-4" aria-live="polite">
                <h3 class="font-semibold">What was understood of {{ intake.file_name }}</h3>
                <div class="mt-2 h-48">
                  <DrawingSheet label="Your drawing as it was read" :drawn="intake.scene" show="drawing" />
                </div>
                <dl class="mt-2 grid grid-cols-[6rem_1fr] gap-y-1 text-sm">
                  <dt class="text-ink2">Unit</dt>
                  <dd>{{ intake.reading.unit ?? `none declared; read as ${data.unit}` }}</dd>
                  <dt class="text-ink2">Drawn</dt>
                  <dd>
                    <template v-for="c in counted" :key="c">
                      <span v-if="intake.reading.counts[c]" class="mr-2">{{ intake.reading.counts[c] }} {{ c }}</span>
                    </template>
                  </dd>
                  <dt class="text-ink2">Layers</dt>
                  <dd>
                    {{
                      intake.reading.layers
                        .filter((l) => l.features)
                        .map((l) => `${l.name} (${l.features})`)
                        .join(", ")
                    }}
                  </dd>
                  <template v-if="intake.reading.counts.drawn_twice || intake.reading.counts.debris">
                    <dt class="text-ink2">Noticed</dt>
                    <dd class="text-near">
                      {{ intake.reading.counts.drawn_twice || 0 }} drawn twice,
                      {{ intake.reading.counts.debris || 0 }} specks
                    </dd>
                  </template>
                  <template v-for="o in intake.reading.oddities" :key="o.says">
                    <dt class="text-ink2">Noticed</dt>
                    <dd class="text-near">{{ o.says }}</dd>
                  </template>
                </dl>
                <button class="press mt-4 w-full justify-center" :disabled="busy" @click="handIn">
                  Hand it in · uses one try
                </button>
              </div>
            </template>
            <p v-else class="mt-2 text-ink2">All tries are used up. Ask your instructor if you need another.</p>
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
                    {{ a.file_name }} · {{ when(a.handed_in_at) }}<b v-if="a.late" class="text-near"> · late</b>
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
