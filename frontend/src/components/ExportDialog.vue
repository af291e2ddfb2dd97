<script setup lang="ts">
/** A file that is made by and by: how far it is, a way to stop it, and then the file. */
import { onScopeDispose, ref, watch } from "vue";
import { get, post, remove, saysOf, type Schemas } from "../api/client";
import DialogSheet from "./DialogSheet.vue";

export interface Wanted {
  kind: Schemas["ExportIn"]["kind"];
  number: number;
  title: string;
  unit: string;
}
const props = defineProps<{ wanted: Wanted | null }>();
const emit = defineEmits<{ close: [] }>();
const row = ref<Schemas["ExportOut"] | null>(null);
const trouble = ref("");
let timer: ReturnType<typeof setTimeout> | undefined;

async function begin(wanted: Wanted): Promise<void> {
  row.value = null;
  trouble.value = "";
  try {
    row.value = await post("/api/exports", undefined, { kind: wanted.kind, number: wanted.number });
    await look();
  } catch (why) {
    trouble.value = saysOf(why);
  }
}
async function look(): Promise<void> {
  const asked = row.value?.id;
  if (asked === undefined) return;
  const now = await get("/api/exports/{export_id}", { export_id: asked }).catch((why: unknown) => {
    trouble.value = saysOf(why);
    return null;
  });
  if (now && row.value?.id === asked) row.value = now;
  if (row.value?.state === "waiting" && props.wanted) timer = setTimeout(() => void look(), 700);
}
/** What is not fetched yet is not made any further. */
function close(): void {
  clearTimeout(timer);
  const left = row.value;
  if (left?.state === "waiting")
    void remove("/api/exports/{export_id}", { export_id: left.id }).catch(() => undefined);
  row.value = null;
  emit("close");
}
watch(
  () => props.wanted,
  (wanted) => {
    clearTimeout(timer);
    if (wanted) void begin(wanted);
  },
  { immediate: true },
);
onScopeDispose(() => clearTimeout(timer));
const megabytes = (bytes: number) =>
  bytes < 1e5 ? `${Math.ceil(bytes / 1000)} kB` : `${(bytes / 1e6).toFixed(1)} MB`;
</script>

<template>
  <DialogSheet :open="wanted !== null" :title="wanted?.title ?? ''" @close="close">
    <p v-if="trouble || row?.state === 'failed'" role="alert" class="mt-3 text-pencil">
      {{ trouble || row?.trouble }}
    </p>
    <template v-else-if="row?.state === 'ready'">
      <p role="status" class="mt-3">{{ row.name }} is ready, {{ megabytes(row.size) }}.</p>
      <p class="mt-1 text-sm text-ink2">You can download it for a day.</p>
    </template>
    <template v-else>
      <p role="status" class="mt-3 text-ink2">
        {{ row?.of ? `${row.done} of ${row.of} ${wanted?.unit}` : "Being prepared" }} …
      </p>
      <progress
        class="mt-2 h-1.5 w-full accent-teal"
        :value="row?.of ? row.done / row.of : undefined"
        aria-label="How far the file is"
      ></progress>
    </template>
    <div class="mt-4 flex justify-end gap-2">
      <button class="press-quiet" @click="close">{{ row?.state === "waiting" ? "Stop" : "Close" }}</button>
      <a v-if="row?.state === 'ready'" :href="`/api/exports/${row.id}/file`" class="press no-underline"
        >Download file</a
      >
    </div>
  </DialogSheet>
</template>
