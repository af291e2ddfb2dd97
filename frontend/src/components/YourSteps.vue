<script setup lang="ts">
/** The steps of the board that drew something, as the board calls it; each leads there where it can still be drawn on. */
import type { Schemas } from "../api/client";

defineProps<{ yours: readonly Schemas["YourStepOut"][]; board: number | null }>();
</script>

<template>
  <span v-if="yours.length" class="text-[0.85rem] text-ink2" data-yours>
    your
    <template v-for="(y, n) in yours" :key="y.says"
      >{{ n ? ", " : ""
      }}<RouterLink
        v-if="board"
        :to="`/boards/${board}?step=${y.step}`"
        :title="`Show ${y.says} on the board`"
        @click.stop
        >{{ y.says }}</RouterLink
      ><template v-else>{{ y.says }}</template></template
    >
  </span>
</template>
