<script setup lang="ts">
/** Drawings that an instructor has on the board, and how to begin another one. */
import { useQuery } from "@tanstack/vue-query";
import { ref } from "vue";
import { useRouter } from "vue-router";
import { get, post, remove } from "../../api/client";
import { when } from "../../times";
import { useAct } from "../../useAct";
import AskDialog from "../AskDialog.vue";
import DialogSheet from "../DialogSheet.vue";
import { keys } from "../../queries";

const router = useRouter();
const making = ref(false);
const title = ref("");
const unit = ref("mm");
const going = ref<{ id: number; title: string } | null>(null);
const { busy, trouble, act, clear } = useAct();
const { data, refetch } = useQuery({ queryKey: keys.boards, queryFn: () => get("/api/boards") });

async function make(): Promise<void> {
  const made = await act(() => post("/api/boards", undefined, { title: title.value, unit: unit.value }));
  if (made) await router.push(`/boards/${made.board_id}`);
}
async function away(): Promise<void> {
  const id = going.value?.id;
  if (id === undefined) return;
  if (await act(() => remove("/api/boards/{board_id}", { board_id: id }))) {
    going.value = null;
    await refetch();
  }
}
function begin(): void {
  clear();
  making.value = true;
}
defineExpose({ begin });
</script>

<template>
  <section class="mt-8" aria-label="On the board">
    <h2>On the board</h2>
    <p v-if="!data?.boards.length" class="mt-2 text-ink2">
      A key can be drawn here, step by step, without another program: Draw a key.
    </p>
    <ul v-else class="paper mt-2 divide-y divide-rule">
      <li v-for="b in data.boards" :key="b.id" class="flex items-baseline gap-4 px-4 py-2.5">
        <RouterLink :to="`/boards/${b.id}`" class="min-w-0 flex-1 truncate font-semibold">{{
          b.title
        }}</RouterLink>
        <span class="text-sm text-ink2">changed {{ when(b.changed_at) }}</span>
        <button class="text-sm text-teal underline" @click="going = b">
          Delete<span class="sr-only">: {{ b.title }}</span>
        </button>
      </li>
    </ul>
    <DialogSheet :open="making" title="Draw a key" @close="making = false">
      <form class="mt-4 space-y-3" @submit.prevent="make">
        <label class="label"
          >Title <input v-model="title" class="field" required maxlength="160" autocomplete="off"
        /></label>
        <label class="label"
          >Unit
          <select v-model="unit" class="field">
            <option value="mm">millimetres</option>
            <option value="cm">centimetres</option>
            <option value="m">metres</option>
            <option value="in">inches</option>
            <option value="ft">feet</option>
          </select></label
        >
        <p v-if="trouble" role="alert" class="text-pencil">{{ trouble }}</p>
        <div class="flex justify-end gap-2">
          <button type="button" class="press-quiet" @click="making = false">Cancel</button>
          <button class="press" :disabled="busy">Begin</button>
        </div>
      </form>
    </DialogSheet>
    <AskDialog
      :open="!!going"
      title="Delete this drawing?"
      word="Delete drawing"
      ends
      :busy="busy"
      :trouble="trouble"
      @close="going = null"
      @yes="away"
    >
      <p>“{{ going?.title }}” and its history are deleted for good. Exercises made from it stay.</p>
    </AskDialog>
  </section>
</template>
