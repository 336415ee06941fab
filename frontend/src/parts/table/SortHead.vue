<script setup lang="ts">
/** The heading of a column that sorts its table. */
import { mdiArrowDown, mdiArrowUp, mdiUnfoldMoreHorizontal } from "@mdi/js";
import { computed } from "vue";

const props = defineProps<{
  words: string;
  direction: "ascending" | "descending" | undefined;
}>();
defineEmits<{ sort: [] }>();

const icon = computed(() => {
  if (!props.direction) return mdiUnfoldMoreHorizontal;
  return props.direction === "ascending" ? mdiArrowUp : mdiArrowDown;
});
</script>

<template>
  <th scope="col" :aria-sort="direction">
    <v-btn variant="text" :append-icon="icon" @click="$emit('sort')">{{ words }}</v-btn>
  </th>
</template>

<style scoped>
.v-btn {
  margin-inline-start: calc(-1 * var(--gap-8));
  margin-bottom: calc(-1 * var(--gap-8));
  padding: 0 var(--gap-8);
}
.number .v-btn {
  margin-inline: 0 calc(-1 * var(--gap-8));
}
@media print {
  .v-btn :deep(.v-btn__append) {
    display: none;
  }
}
</style>
