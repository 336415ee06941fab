<script setup lang="ts">
/** How a test is done: what to say, what counts, what to mind. */
import { t } from "../../messages/lessons";
import type { Schemas } from "../../api/client";

defineProps<{ test: Schemas["ActivityPage"] }>();
</script>

<template>
  <div class="brief">
    <div class="board">
      <h2>{{ t("say") }}</h2>
      <ol>
        <li v-for="line in test.say" :key="line">{{ line }}</li>
      </ol>
      <h2>{{ t("whatCounts") }}</h2>
      <ul>
        <li v-for="line in test.counts" :key="line">{{ line }}</li>
      </ul>
      <template v-if="test.does_not_count.length">
        <h2>{{ t("whatDoesNotCount") }}</h2>
        <ul>
          <li v-for="line in test.does_not_count" :key="line">{{ line }}</li>
        </ul>
      </template>
    </div>
    <div class="board care">
      <h2>{{ t("takeCare") }}</h2>
      <ul>
        <li v-for="line in test.cautions" :key="line">{{ line }}</li>
      </ul>
    </div>
  </div>
</template>

<style scoped>
.brief {
  display: grid;
  gap: var(--gap-8);
  align-content: start;
}
.brief h2 {
  font-size: var(--type-18);
}
.brief h2:not(:first-child) {
  margin-top: var(--gap-8);
}
.brief ol,
.brief ul {
  padding-left: var(--gap-24);
}
.care {
  border-left: var(--bar) solid var(--pennant);
}
</style>
