<script setup lang="ts">
import { t } from "../messages/parts";
/** The pages of one class. */
defineProps<{ classId: string }>();
const TABS = [
  ["class", t("board")],
  ["class-list", t("childrenAndLessons")],
  ["class-next", t("whatNext")],
  ["handouts", t("handouts")],
] as const;
</script>

<template>
  <nav class="tabs no-print" :aria-label="t('thisClass')">
    <RouterLink
      v-for="[name, words] in TABS"
      :key="name"
      class="tag"
      :to="{ name, params: { classId } }"
      exact-active-class="strong"
      >{{ words }}</RouterLink
    >
  </nav>
</template>

<style scoped>
.tabs {
  display: flex;
  flex-wrap: wrap;
  gap: var(--gap-8);
}
.tabs a {
  padding: var(--gap-4) var(--gap-8);
  text-decoration: none;
}
.tabs .strong {
  background: var(--line);
  color: var(--board);
}
</style>
