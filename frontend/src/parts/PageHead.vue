<script setup lang="ts">
/**
 * The head of every page: the way here, its name and what belongs to it, the pages beside it, and at
 * the right what can be done, the main thing last. It stands while the page is still loading.
 */
defineProps<{ title: string }>();
</script>

<template>
  <header class="page-head">
    <p v-if="$slots.trail" class="trail quiet no-print"><slot name="trail" /></p>
    <div class="row">
      <h1>{{ title }}</h1>
      <p v-if="$slots.facts" class="facts quiet"><slot name="facts" /></p>
      <slot name="beside" />
      <div v-if="$slots.default" class="line acts no-print"><slot /></div>
    </div>
  </header>
</template>

<style scoped>
.page-head {
  border-bottom: var(--line-3) solid var(--line);
  padding-bottom: var(--gap-8);
  margin-bottom: var(--gap-16);
  position: relative;
}
/* The second stroke of a court line, the double one that ends a zone. */
.page-head::after {
  content: "";
  position: absolute;
  inset: auto 0 -7px;
  border-bottom: var(--line-2) solid var(--line);
}
.trail {
  font-size: var(--type-14);
}
.row {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: var(--gap-8) var(--gap-24);
  min-height: 48px;
}
.acts {
  margin-left: auto;
}
.acts :deep(.v-input.v-input) {
  flex: none;
  width: 14rem;
}
h1 {
  overflow-wrap: anywhere;
}
</style>
