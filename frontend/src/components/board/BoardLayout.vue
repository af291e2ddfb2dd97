<script setup lang="ts">
/** How the board is laid out: the sheet with its bar, and beside it the list with the sentence; printed one above the other. */
</script>

<template>
  <main class="board">
    <div class="flex min-h-0 min-w-0 flex-col gap-2.5">
      <div class="with-sheet"><slot name="sheets" /></div>
      <slot name="bar" />
    </div>
    <div class="column"><slot /></div>
  </main>
</template>

<style scoped>
.board {
  display: grid;
  min-height: 0;
  flex: 1;
  grid-template-columns: minmax(0, 1.65fr) minmax(22rem, 1fr);
  grid-template-rows: minmax(0, 1fr);
  gap: 1rem;
  padding: 1rem;
}
/* the list keeps eight of its steps in view, whatever is open below it */
.column {
  display: flex;
  min-width: 0;
  min-height: 0;
  flex-direction: column;
  gap: 0.6rem;
  overflow-y: auto;
}
/* the pad is the last of all, so that its keys stay where they are */
.column:has([data-pad]) > :slotted([data-sentence]) {
  order: 1;
}
.with-sheet {
  display: flex;
  flex: 1;
  flex-direction: column;
  gap: 0.6rem;
  min-height: 0;
}
.with-sheet > :slotted(*) {
  flex: 1;
  min-height: 0;
  min-width: 0;
}
@media (min-width: 1500px) {
  .with-sheet {
    flex-direction: row;
  }
}
/* printed, the drawing stands above its whole list; at true scale it is printed from the PDF */
@media print {
  .board {
    display: block;
    overflow: visible;
  }
  .with-sheet {
    flex: none;
    height: 60vh;
  }
  .board :deep(canvas) {
    object-fit: contain;
  }
  .board :deep([data-steps]) {
    overflow: visible;
  }
}
/* where there is little room the sentence stands first, so that it and the drawing are both in view */
@media (max-height: 520px) {
  .column > :slotted([data-sentence]) {
    order: -1;
  }
}
@media (max-width: 860px) {
  .board {
    grid-template-columns: minmax(0, 1fr);
    grid-template-rows: minmax(16rem, 45dvh) auto;
    overflow-y: auto;
  }
}
@media (max-height: 520px) {
  .board {
    grid-template-columns: minmax(0, 1fr) minmax(17rem, 1fr);
    grid-template-rows: minmax(0, 1fr);
    gap: 0.5rem;
    padding: 0.5rem;
    overflow: hidden;
  }
  .column > :slotted([data-steps]) {
    min-height: 5rem !important;
  }
}
</style>
