<script setup lang="ts">
import { RouterView } from "vue-router";

/** Pages that go from one thing to the next of its kind themselves, keeping what was chosen or can be undone. */
const STAYS = new Set(["marking", "exercise"]);
</script>

<template>
  <RouterView v-slot="{ Component, route }">
    <component :is="Component" :key="STAYS.has(String(route.name)) ? String(route.name) : route.path" />
  </RouterView>
</template>
