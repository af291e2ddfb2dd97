<script setup lang="ts">
/** The bar at the top: name, places, whose account it is. A page may put its own words in the middle and at the right. */
import { Menu, MenuButton, MenuItem, MenuItems } from "@headlessui/vue";
import { ChevronDownIcon } from "@heroicons/vue/20/solid";
import { ref } from "vue";
import { useRouter } from "vue-router";
import { saysOf } from "../api/client";
import { sendLeftOf, unsentOf } from "../board/leaving";
import { signOut, useSession } from "../session";
import AskDialog from "./AskDialog.vue";
import LogoMark from "./LogoMark.vue";

const { person } = useSession();
const router = useRouter();
const places = {
  instructor: [
    { to: "/desk", word: "Desk" },
    { to: "/exercises", word: "Exercises" },
    { to: "/classes", word: "Classes" },
  ],
  student: [{ to: "/work", word: "My work" }],
};

/** How much of what was drawn would go with the session. */
const unsent = ref(0);
/** Why somebody is still signed in. */
const stays = ref("");
/** Nothing that was drawn is left in the browser: it is sent, or asked about. */
async function askToLeave(): Promise<void> {
  await sendLeftOf();
  unsent.value = unsentOf();
  if (!unsent.value) await leave();
}
async function leave(): Promise<void> {
  stays.value = "";
  try {
    await signOut();
  } catch (why) {
    stays.value = `You are still signed in. ${saysOf(why)}`;
    return;
  }
  unsent.value = 0;
  await router.push({ name: "sign-in" });
}
function stay(): void {
  unsent.value = 0;
  stays.value = "";
}
</script>

<template>
  <header class="screen-only border-b border-rule bg-bar">
    <div class="flex min-h-14 flex-wrap items-center gap-x-4 px-4 py-1 sm:px-5 lg:flex-nowrap">
      <RouterLink
        :to="person ? '/' : '/sign-in'"
        class="flex items-center gap-2.5 font-bold text-ink no-underline"
      >
        <LogoMark /><span class="whitespace-nowrap">Even Mark</span>
      </RouterLink>
      <slot name="start">
        <nav v-if="person" aria-label="Main pages" class="flex gap-1">
          <RouterLink
            v-for="place in places[person.role]"
            :key="place.to"
            :to="place.to"
            class="rounded px-2.5 py-1 text-ink2 no-underline hover:text-teal"
            active-class="!text-ink font-semibold"
            >{{ place.word }}</RouterLink
          >
        </nav>
      </slot>
      <div
        class="flex min-w-0 items-center justify-center"
        :class="$slots.middle ? 'order-last w-full pb-1 lg:order-none lg:w-auto lg:flex-1 lg:pb-0' : 'flex-1'"
      >
        <slot name="middle" />
      </div>
      <div class="ml-auto flex items-center gap-4 sm:ml-0"><slot name="end" /></div>
      <Menu v-if="person" as="div" class="relative">
        <MenuButton class="flex items-center gap-1 rounded px-1.5 py-1 text-ink2 hover:text-teal">
          <span class="hidden max-w-36 truncate md:inline">{{ person.name }}</span>
          <span class="md:hidden">Account</span>
          <ChevronDownIcon class="h-4 w-4" aria-hidden="true" />
        </MenuButton>
        <MenuItems class="paper absolute right-0 z-30 mt-1 w-52 py-1 shadow-lg focus:outline-none">
          <MenuItem v-slot="{ active }">
            <RouterLink
              to="/account"
              class="block px-3 py-1.5 text-ink no-underline"
              :class="active && 'bg-teal-soft'"
              >Account and password</RouterLink
            >
          </MenuItem>
          <MenuItem v-slot="{ active }">
            <button
              class="block w-full px-3 py-1.5 text-left"
              :class="active && 'bg-teal-soft'"
              @click="askToLeave"
            >
              Sign out
            </button>
          </MenuItem>
        </MenuItems>
      </Menu>
    </div>
    <AskDialog
      :open="unsent > 0 || stays !== ''"
      :title="unsent ? 'Not everything you drew is saved' : 'You are still signed in'"
      :word="unsent ? 'Sign out and delete steps' : 'Try again'"
      :ends="unsent > 0"
      :trouble="stays"
      @close="stay"
      @yes="leave"
    >
      <p v-if="unsent">
        {{ unsent === 1 ? "One step is" : `${unsent} steps are` }} kept in this browser alone. Stay signed in
        until the server has {{ unsent === 1 ? "it" : "them" }}; signing out deletes
        {{ unsent === 1 ? "it" : "them" }}, since others may use this browser.
      </p>
    </AskDialog>
  </header>
</template>
