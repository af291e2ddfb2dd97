<script setup lang="ts">
/** What can be done with a finding or a drawing, each with its key. */
defineProps<{ chosen: boolean; begun: boolean; busy: boolean }>();
defineEmits<{ override: []; comment: []; undo: []; record: [] }>();
</script>

<template>
  <div class="screen-only flex flex-wrap items-center gap-1.5 text-sm">
    <button class="press-quiet !px-2 !py-1" :disabled="!chosen" @click="$emit('override')">
      Change verdict <kbd class="keycap">O</kbd>
    </button>
    <button class="press-quiet !px-2 !py-1" @click="$emit('comment')">
      {{ begun ? "Comment, begun" : "Comment" }} <kbd class="keycap">C</kbd>
    </button>
    <button class="press-quiet !px-2 !py-1" :disabled="busy" @click="$emit('undo')">
      Undo <kbd class="keycap">Ctrl+Z</kbd>
    </button>
    <button class="press-quiet !px-2 !py-1" @click="$emit('record')">
      Record <kbd class="keycap">H</kbd>
    </button>
  </div>
</template>
