<script setup lang="ts">
/** A kind of step with its example: a small picture, and the sentences that draw it. */
import type { Kind } from "../../board/types";
import KindPicture from "./KindPicture.vue";

defineProps<{ kind: Kind }>();
</script>

<template>
  <div class="flex items-start gap-3" data-example>
    <KindPicture class="shrink-0" :kind="kind" :side="96" />
    <div class="min-w-0 text-sm">
      <p class="font-semibold">{{ kind.says }}</p>
      <p
        v-for="(line, n) in kind.example.split('|')"
        :key="n"
        class="font-mono break-words"
        :class="n < kind.example.split('|').length - 1 && 'text-ink2'"
      >
        {{ n + 1 }}&nbsp; {{ line.replaceAll(";", " ·") }}
      </p>
    </div>
  </div>
</template>
