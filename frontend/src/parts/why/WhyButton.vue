<script setup lang="ts">
/** The "Why?" beside a judged number: opens its working, and gives the typing back afterwards. */
import { askWhy } from "./why";

defineProps<{ attemptId: string; label: string }>();
</script>

<template>
  <button type="button" class="ask-why" @pointerdown.prevent @click.stop="askWhy(attemptId)">
    <i18n-t keypath="parts.whySpan" scope="global"
      ><template #span
        ><span class="sr-only"> {{ label }}</span></template
      ></i18n-t
    >
  </button>
</template>

<style scoped>
.ask-why {
  min-height: var(--dense);
  min-width: 44px;
  color: var(--line);
  text-decoration: underline;
}
</style>
