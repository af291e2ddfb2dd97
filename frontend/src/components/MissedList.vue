<script setup lang="ts">
/** What most of a class missed, each a link to the drawings that show it. */
defineProps<{
  rows: { key: string; name: string; students: number; of: number; first: number | null }[];
  none: string;
}>();
</script>

<template>
  <ul class="paper divide-y divide-rule">
    <li v-if="!rows.length" class="px-4 py-3 text-ink2">{{ none }}</li>
    <li v-for="m in rows" :key="m.key">
      <component
        :is="m.first ? 'RouterLink' : 'span'"
        :to="m.first ? `/marking/${m.first}?only=${m.key}` : undefined"
        class="block px-4 py-2 text-ink no-underline hover:bg-teal-soft"
      >
        <span class="flex justify-between gap-2">
          <span>{{ m.name }}</span>
          <span class="whitespace-nowrap text-ink2">{{ m.students }} of {{ m.of }}</span>
        </span>
        <span
          class="mt-1 block h-1 rounded bg-pencil/70"
          :style="{ width: `${(m.students / m.of) * 100}%` }"
        ></span>
      </component>
    </li>
  </ul>
</template>
