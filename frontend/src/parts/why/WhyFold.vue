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
      <i18n-t keypath="parts.whySpan" scope="global"
        ><template #span
          ><span class="sr-only"> {{ label }}</span></template
        ></i18n-t
      >
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
