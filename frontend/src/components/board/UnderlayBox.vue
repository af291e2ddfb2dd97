<script setup lang="ts">
/** Picture to trace: how strongly it shows, where it lies, how large it is. */
import { computed } from "vue";
import type { UnderlayState } from "../../board/useUnderlay";

const props = defineProps<{ underlay: UnderlayState; unit: string }>();
const u = props.underlay;
const asks = computed(() => {
  const count = u.places.value.length;
  if (u.doing.value === "move")
    return count ? "Click where that belongs." : "Click a place of the picture, then where it belongs.";
  if (count === 2) return "How far apart are they?";
  return count ? "Click the second one." : "Click two places whose distance you know, far apart. First one:";
});
</script>

<template>
  <section class="paper px-3 py-2" aria-label="Picture to trace" data-underlay>
    <p class="flex items-baseline justify-between gap-4">
      <strong>Picture to trace</strong>
      <button type="button" class="act" @click="u.close()">done</button>
    </p>
    <div class="flex flex-wrap items-center gap-x-4">
      <button type="button" class="act" :aria-pressed="u.doing.value === 'scale'" @click="u.begin('scale')">
        Scale by two places
      </button>
      <button type="button" class="act" :aria-pressed="u.doing.value === 'move'" @click="u.begin('move')">
        move
      </button>
      <button type="button" class="act" @click="u.toggle()">
        {{ u.shown.value ? "hide" : "show" }}
      </button>
      <button type="button" class="act" @click="u.drop()">Delete picture</button>
      <label class="ml-auto flex items-center gap-2 text-sm text-ink2">
        strength
        <input
          type="range"
          class="w-24 accent-teal"
          min="0.1"
          max="1"
          step="0.1"
          :value="u.lies.value?.strength"
          @change="(e) => u.strength(Number((e.target as HTMLInputElement).value))"
        />
      </label>
    </div>
    <form v-if="u.doing.value" class="mt-1 flex flex-wrap items-center gap-3" @submit.prevent="u.settle()">
      <p class="w-full text-sm" aria-live="polite">{{ asks }}</p>
      <template v-if="u.doing.value === 'scale' && u.places.value.length === 2">
        <label
          ><input
            v-model="u.apart.value"
            class="field !w-32 text-right"
            required
            autocomplete="off"
            aria-label="How far the two places are apart"
          />
          {{ unit }}</label
        >
        <label class="flex items-center gap-2 text-sm"
          ><input v-model="u.level.value" type="checkbox" class="accent-teal" /> they are horizontal or
          vertical to each other</label
        >
        <button class="press !px-3 !py-1">Scale picture</button>
      </template>
      <button type="button" class="press-quiet !px-3 !py-1" @click="u.begin('')">Cancel</button>
    </form>
  </section>
</template>

<style scoped>
.act {
  color: var(--color-teal);
  font-size: 0.9rem;
  text-decoration: underline;
  text-underline-offset: 2px;
}
.act[aria-pressed="true"] {
  font-weight: 600;
}
</style>
