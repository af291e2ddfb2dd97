<script setup lang="ts">
/** What is asked before steps go that others name, or all that stand behind a bookmark. */
import type { useSteps } from "../../board/useSteps";
import AskDialog from "../AskDialog.vue";

const props = defineProps<{ listing: ReturnType<typeof useSteps> }>();
const { going, takeAway, goingBack, goneBack } = props.listing;
</script>

<template>
  <AskDialog
    v-if="going"
    :open="true"
    title="Delete this step?"
    word="Delete step"
    @yes="takeAway(going.row)"
    @close="going = null"
  >
    <p>
      {{ going.by.length === 1 ? `Step ${going.by[0]} uses` : `Steps ${going.by.join(", ")} use` }} step
      {{ going.row.number }} and will break. You can undo this.
    </p>
  </AskDialog>
  <AskDialog
    v-if="goingBack"
    :open="true"
    title="Go back to this bookmark?"
    word="Go back"
    @yes="goneBack"
    @close="goingBack = null"
  >
    <p>
      This deletes the {{ goingBack.steps.length }} step{{ goingBack.steps.length === 1 ? "" : "s" }} after
      “{{ goingBack.row.says || "bookmark" }}”. You can undo this.
    </p>
  </AskDialog>
</template>
