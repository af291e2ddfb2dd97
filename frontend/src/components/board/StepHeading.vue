<script setup lang="ts">
/** A bookmark heads what stands under it: it folds, says how much that is, and is a moment to go back to; a remark is a line of words. */
import { computed, ref } from "vue";
import type { ListedRow } from "../../board/listed";

const props = defineProps<{ listed: ListedRow; folded: boolean; goesBack: boolean; first: boolean }>();
const emit = defineEmits<{
  fold: [];
  back: [];
  unmark: [];
  rename: [says: string];
  key: [e: KeyboardEvent];
  focused: [];
}>();
const naming = ref(false);
const vSelect = { mounted: (field: HTMLInputElement) => field.select() };
function named(e: FocusEvent): void {
  if (!naming.value) return;
  naming.value = false;
  emit("rename", (e.target as HTMLInputElement).value.trim());
}
const row = computed(() => props.listed.row);
const isHeading = computed(() => row.value.kind === "bookmark");
</script>

<template>
  <div class="heading" role="listitem">
    <div
      class="flex items-baseline gap-2 px-3 py-1 text-teal"
      role="group"
      :aria-label="`${row.kind}: ${row.says}`"
      :tabindex="first ? 0 : -1"
      :data-row="row.key"
      @keydown="(e) => emit('key', e)"
      @focus="emit('focused')"
    >
      <button
        v-if="isHeading"
        type="button"
        class="w-4 shrink-0"
        :aria-expanded="!folded"
        :aria-label="`${folded ? 'unfold' : 'fold'}: ${row.says || 'bookmark'}`"
        @click="emit('fold')"
      >
        {{ folded ? "▸" : "▾" }}
      </button>
      <span v-else class="w-4 shrink-0" aria-hidden="true">#</span>
      <input
        v-if="naming"
        v-select
        class="min-w-0 flex-1 border-b border-teal bg-transparent"
        :value="row.says"
        :aria-label="`Rename: ${row.says}`"
        maxlength="200"
        @keydown.stop.enter="(e) => (e.target as HTMLInputElement).blur()"
        @keydown.stop.esc="naming = false"
        @keydown.stop
        @blur="named"
      />
      <button
        v-else
        type="button"
        class="min-w-0 flex-1 text-left break-words"
        :class="isHeading ? 'font-semibold text-ink' : 'text-ink2'"
        :title="`Rename: ${row.says || 'bookmark'}`"
        @click="naming = true"
      >
        {{ row.says || "bookmark" }}
      </button>
      <span v-if="isHeading" class="shrink-0 text-sm text-ink2">
        {{ listed.steps }} step{{ listed.steps === 1 ? "" : "s"
        }}<span v-if="listed.broken" class="text-pencil">, {{ listed.broken }} broken</span>
      </span>
      <button
        v-if="isHeading && goesBack"
        type="button"
        class="act"
        :aria-label="`Go back here: ${row.says || 'bookmark'}`"
        @click.stop="emit('back')"
      >
        Go back here
      </button>
      <button
        type="button"
        class="act"
        :aria-label="`Delete: ${row.says || 'bookmark'}`"
        @click.stop="emit('unmark')"
      >
        delete
      </button>
    </div>
  </div>
</template>

<style scoped>
.heading {
  border-top: 1px solid var(--color-rule);
  background: var(--color-bar);
}
.act {
  flex-shrink: 0;
  color: var(--color-ink2);
  font-size: 0.875rem;
}
.act:hover {
  color: var(--color-teal);
}
</style>
