<script setup lang="ts">
/** The "Why?" beside a judged number: opens its working, and gives the typing back afterwards. */
import { askWhy } from "./why";

defineProps<{ attemptId: string; label: string }>();
</script>

<template>
  <button type="button" class="ask-why" @pointerdown.prevent @click.stop="askWhy(attemptId)">
    Why?<span class="sr-only"> {{ label }}</span>
  </button>
</template>

<style scoped>
.ask-why {
  min-height: 24px;
  min-width: 44px;
  color: var(--line);
  text-decoration: underline;
}
</style>
