<script setup lang="ts">
/** Beside the cursor: how what is typed will be kept, or why it will not. */
import type { TypedEntry } from "../useEntry";

defineProps<{ entry: TypedEntry }>();
</script>

<template>
  <b v-if="entry.kept.value || entry.doubt.value" id="kept" data-testid="kept">
    {{ entry.kept.value ? `= ${entry.kept.value}` : entry.doubt.value }}
  </b>
</template>
