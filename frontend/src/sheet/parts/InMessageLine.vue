<script setup lang="ts">
/** What stands in the hall's message line; elsewhere it stands where it is written. */
import { computed } from "vue";
import { useMessageLine } from "../messageLine";

const zone = useMessageLine();
const to = computed(() => zone?.value ?? null);
</script>

<template>
  <Teleport :to="to" :disabled="to === null">
    <slot />
  </Teleport>
</template>
