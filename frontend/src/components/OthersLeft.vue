<script setup lang="ts">
/** Asks whoever signs in where somebody else has left what is not saved: that one can save it still, or it goes. */
import { ref, watch } from "vue";
import { useRouter } from "vue-router";
import { dropOthers, isSomething, leftByOthers, leftInWords, type Left } from "../leavings";
import { letOthersIn, useSession } from "../session";
import { useAct } from "../useAct";
import DialogSheet from "./DialogSheet.vue";

const { person } = useSession();
const router = useRouter();
const left = ref<Left | null>(null);
const { busy, trouble, act } = useAct();
watch(
  () => person.value?.id ?? 0,
  (id) => {
    left.value = null;
    if (!id) return;
    const found = leftByOthers(id);
    if (isSomething(found)) left.value = found;
    else dropOthers(id);
  },
  { immediate: true },
);
function drop(): void {
  dropOthers(person.value?.id ?? 0);
  left.value = null;
}
/** The question stands until whoever asked is out: signing in beside it would be undone by it. */
const letIn = () =>
  act(async () => {
    await letOthersIn();
    await router.push({ name: "sign-in" });
  });
</script>

<template>
  <DialogSheet :open="left !== null" title="Unsaved work of somebody else" @close="letIn">
    <p v-if="left" class="mt-2">
      Not saved in this browser: {{ leftInWords(left) }}. They can sign in and save it. Continuing deletes it.
    </p>
    <p v-if="trouble" role="alert" class="mt-3 text-pencil">{{ trouble }}</p>
    <div class="mt-4 flex justify-end gap-2">
      <button class="press-quiet" :disabled="busy" @click="drop">Delete it and continue</button>
      <button class="press" :disabled="busy" @click="letIn">Let them sign in</button>
    </div>
  </DialogSheet>
</template>
