<template>
  <svg
    viewBox="0 0 28 16"
    class="h-4 w-7"
    fill="none"
    stroke="var(--color-teal)"
    stroke-width="2.6"
    stroke-linecap="round"
    aria-hidden="true"
  >
    <path d="M1.5 8h25" />
    <path d="M11.5 2.5v11M16.5 2.5v11" />
  </svg>
</template>
