<script setup lang="ts">
/** What can be done beyond the first things: a list behind one word. */
import { Menu, MenuButton, MenuItem, MenuItems } from "@headlessui/vue";
import { ChevronDownIcon } from "@heroicons/vue/20/solid";

export interface MoreItem {
  word: string;
  /** What it does; else where it leads, or which file it gives. */
  act?: () => unknown;
  to?: string;
  href?: string;
  /** Whether it takes something away for good. */
  ends?: boolean;
  off?: boolean;
}
defineProps<{ items: readonly MoreItem[]; label?: string; word?: string; small?: boolean }>();
const look = (active: boolean, item: MoreItem) => [
  "block w-full px-3 py-1.5 text-left no-underline",
  active ? "bg-teal-soft" : "",
  item.off ? "text-ink2" : "text-ink",
  item.ends ? "border-t border-rule font-semibold" : "",
];
</script>

<template>
  <Menu as="div" class="relative">
    <MenuButton :class="small ? 'text-sm text-teal underline' : 'press-quiet'" :aria-label="label">
      {{ word ?? "More" }}<ChevronDownIcon v-if="!small" class="h-4 w-4" aria-hidden="true" />
    </MenuButton>
    <MenuItems
      class="paper absolute right-0 z-30 mt-1 w-max max-w-80 min-w-48 py-1 shadow-lg focus:outline-none"
    >
      <MenuItem v-for="item in items" :key="item.word" v-slot="{ active }" :disabled="item.off">
        <RouterLink v-if="item.to" :to="item.to" :class="look(active, item)">{{ item.word }}</RouterLink>
        <a v-else-if="item.href" :href="item.href" :class="look(active, item)">{{ item.word }}</a>
        <button v-else :class="look(active, item)" :disabled="item.off" @click="item.act?.()">
          {{ item.word }}
        </button>
      </MenuItem>
    </MenuItems>
  </Menu>
</template>
