<script setup lang="ts">
/** Help on the board: drawings to follow, and every kind of step with its example. */
import { computed, ref } from "vue";
import type { Kind } from "../../board/types";
import DialogSheet from "../DialogSheet.vue";
import FollowOffer from "./FollowOffer.vue";
import KindExample from "./KindExample.vue";

const props = defineProps<{ open: boolean; kinds: readonly Kind[] }>();
const emit = defineEmits<{ close: []; start: [name: string] }>();
const find = ref("");
const found = computed(() => {
  const word = find.value.trim().toLowerCase();
  return props.kinds.filter((k) => !word || `${k.says} ${k.words} ${k.begins}`.toLowerCase().includes(word));
});
</script>

<template>
  <DialogSheet :open="open" title="Help on the board" wide @close="emit('close')">
    <FollowOffer class="mt-3" :closes="false" @start="(name) => emit('start', name)" />
    <div class="mt-4 flex items-baseline justify-between gap-3">
      <h2 class="!text-base">Kinds of steps, each with an example</h2>
      <input
        v-model="find"
        type="search"
        class="field !w-48 !py-0.5"
        aria-label="Find a kind of step"
        placeholder="Find"
      />
    </div>
    <ul class="mt-2 grid max-h-[45vh] gap-x-6 gap-y-3 overflow-y-auto sm:grid-cols-2" tabindex="0">
      <li v-for="k in found" :key="k.says"><KindExample :kind="k" /></li>
      <li v-if="!found.length" class="text-ink2">Nothing found. Try fewer words.</li>
    </ul>
    <p class="mt-4 text-right">
      <button type="button" class="press-quiet" @click="emit('close')">Close</button>
    </p>
  </DialogSheet>
</template>
