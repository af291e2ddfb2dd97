<script setup lang="ts">
import { nextTick } from "vue";
import { RouterView, useRouter } from "vue-router";
import OthersLeft from "./components/OthersLeft.vue";
import { announced } from "./title";

/** Pages that go from one thing to the next of its kind themselves, keeping what was chosen or can be undone. */
const STAYS = new Set(["marking", "exercise"]);

const router = useRouter();
async function toContent(): Promise<void> {
  // who is quicker than the page gets there when it has come
  if (!document.querySelector("main")) await router.isReady().then(() => nextTick());
  const main = document.querySelector<HTMLElement>("main");
  if (!main) return;
  main.tabIndex = -1;
  main.focus({ preventScroll: true });
}
// who came by the keyboard goes on in the new page, not in what is left of the old one
router.afterEach(async (to, from) => {
  const same = to.path === from.path || (to.name === from.name && STAYS.has(String(to.name)));
  if (!from.matched.length || same) return;
  await nextTick();
  // at once where nothing holds the focus: the page may then take it for itself, as the grid does
  if (!document.activeElement || document.activeElement === document.body) await toContent();
  else requestAnimationFrame(() => void toContent());
});
</script>

<template>
  <nav aria-label="On this page">
    <a
      href="#"
      class="press absolute top-2 left-2 z-50 -translate-y-20 no-underline focus:translate-y-0"
      @click.prevent="toContent"
      >To the content</a
    >
  </nav>
  <RouterView v-slot="{ Component, route }">
    <component :is="Component" :key="STAYS.has(String(route.name)) ? String(route.name) : route.path" />
  </RouterView>
  <OthersLeft />
  <p class="sr-only" aria-live="polite" data-announced>{{ announced }}</p>
</template>
