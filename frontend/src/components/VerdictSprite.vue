<script setup lang="ts">
/** The signs of all verdicts once, for grids with thousands of cells. */
</script>

<template>
  <svg width="0" height="0" class="absolute" aria-hidden="true">
    <symbol
      id="sign-met"
      fill="none"
      stroke="currentColor"
      stroke-width="2.2"
      stroke-linecap="round"
      viewBox="0 0 16 16"
    >
      <path d="M2 8h12M6.2 4v8M9.8 4v8" />
    </symbol>
    <symbol
      id="sign-near"
      fill="none"
      stroke="currentColor"
      stroke-width="2.2"
      stroke-linecap="round"
      viewBox="0 0 16 16"
    >
      <path d="M2 9.5c2-5.5 4-5.5 6-1.5s4 4 6-1.5" />
    </symbol>
    <symbol
      id="sign-missed"
      fill="none"
      stroke="currentColor"
      stroke-width="2.2"
      stroke-linecap="round"
      viewBox="0 0 16 16"
    >
      <path d="M4 4l8 8M12 4l-8 8" />
    </symbol>
    <symbol
      id="sign-absent"
      fill="none"
      stroke="currentColor"
      stroke-width="2.2"
      stroke-linecap="round"
      viewBox="0 0 16 16"
    >
      <circle cx="8" cy="8" r="4.6" />
    </symbol>
    <symbol
      id="sign-follows"
      fill="none"
      stroke="currentColor"
      stroke-width="2.2"
      stroke-linecap="round"
      viewBox="0 0 16 16"
    >
      <path d="M3 3v4a2 2 0 0 0 2 2h7M9 5.5l3.5 3.5L9 12.5" />
    </symbol>
  </svg>
</template>
