<script setup lang="ts">
/** The "Why?" beside a judged number: folded, its working is asked for when it is opened. */
import { ref } from "vue";
import Why from "./Why.vue";

defineProps<{ attemptId: string; label: string; nameless?: boolean }>();
const open = ref(false);
</script>

<template>
  <details class="fold" @toggle="open = ($event.target as HTMLDetailsElement).open">
    <summary>
      Why?<span class="sr-only"> {{ label }}</span>
    </summary>
    <Why v-if="open" :attempt-id="attemptId" :nameless="nameless" />
  </details>
</template>

<style scoped>
.fold summary {
  display: inline-block;
  min-height: 24px;
  padding: 0 4px;
  cursor: pointer;
  color: var(--line);
  text-decoration: underline;
}
</style>
