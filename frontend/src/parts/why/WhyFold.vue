<script setup lang="ts">
/** The "Why?" beside a judged number: folded, its working is asked for when it is opened. */
import Fold from "../Fold.vue";
import Why from "./Why.vue";

defineProps<{ attemptId: string; label: string; nameless?: boolean }>();
</script>

<template>
  <Fold class="fold">
    <template #title>
      <i18n-t keypath="parts.whySpan" scope="global"
        ><template #span
          ><span class="sr-only"> {{ label }}</span></template
        ></i18n-t
      >
    </template>
    <Why :attempt-id="attemptId" :nameless="nameless" />
  </Fold>
</template>
