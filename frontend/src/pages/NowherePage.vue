<script setup lang="ts">
import AppBar from "../components/AppBar.vue";
import StateNote from "../components/StateNote.vue";
</script>

<template>
  <AppBar />
  <main class="mx-auto max-w-5xl p-6">
    <h1 class="mb-4">Nothing here</h1>
    <StateNote
      >There is nothing at this address. <RouterLink to="/">Go to where your work is.</RouterLink></StateNote
    >
  </main>
</template>
