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
    title="Take this step away?"
    word="Take it away"
    @yes="takeAway(going.row)"
    @close="going = null"
  >
    <p>
      Step {{ going.row.number }} is named by step{{ going.by.length === 1 ? "" : "s" }}
      {{ going.by.join(", ") }}. What they need is gone then, and they say so in their place. It can be taken
      back.
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
      What stands behind “{{ goingBack.row.says || "bookmark" }}”, {{ goingBack.steps.length }} step{{
        goingBack.steps.length === 1 ? "" : "s"
      }}, is taken away together. It can be taken back.
    </p>
  </AskDialog>
</template>
