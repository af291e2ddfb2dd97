<script setup lang="ts">
/** A form on a page of its own, before somebody is signed in: fields, what went wrong, and one button. */
import LogoMark from "./LogoMark.vue";

defineProps<{ title: string; trouble: string; busy: boolean; does: string; doing: string }>();
defineEmits<{ send: [] }>();
defineSlots<{ default(): unknown; lead?(): unknown; foot?(): unknown }>();
</script>

<template>
  <main class="grid min-h-dvh place-items-center p-4">
    <form class="paper w-full max-w-md p-6" @submit.prevent="$emit('send')">
      <p class="flex items-center gap-2.5 font-bold"><LogoMark />Even Mark</p>
      <h1 class="mt-4" :class="$slots.lead ? 'mb-1' : 'mb-4'">{{ title }}</h1>
      <p v-if="$slots.lead" class="mb-4 text-ink2"><slot name="lead" /></p>
      <slot />
      <p v-if="trouble" role="alert" class="mt-3 text-pencil">{{ trouble }}</p>
      <button class="press mt-5 w-full justify-center" :disabled="busy">{{ busy ? doing : does }}</button>
      <p v-if="$slots.foot" class="mt-4 text-sm text-ink2"><slot name="foot" /></p>
    </form>
  </main>
</template>
