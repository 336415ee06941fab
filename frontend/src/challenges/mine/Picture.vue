<script setup lang="ts">
/** A child's picture. */
import type { Schemas } from "../../api/client";

defineProps<{ picture: Schemas["Picture"] }>();
</script>

<template>
  <svg viewBox="0 0 24 24" role="img" :aria-label="picture.word">
    <path :d="picture.path" />
  </svg>
</template>

<style scoped>
svg {
  display: block;
  width: 100%;
  height: 100%;
  fill: currentcolor;
}
</style>
