<script setup lang="ts">
/** How far a PDF is, and the link to it once it is there. */
import { t } from "../../messages/parts";
import type { Schemas } from "../../api/client";

defineProps<{ file: Schemas["Handout"] | null; problem: string }>();
</script>

<template>
  <div class="file" :class="{ some: file || problem }" aria-live="polite">
    <p v-if="problem || file?.problem" role="alert" class="problem">
      {{ problem || file?.problem }}
    </p>
    <template v-else-if="file && !file.ready">
      <p class="sr-only">{{ t("theFileIsBeingMade") }}</p>
      <!-- Each page is seen, not read out: only the beginning and the end are. -->
      <div aria-live="off">
        {{ t("doneOfAllPagesMade", { done: file.done, all: file.of }) }}
        <v-progress-linear
          :model-value="file.done"
          :max="file.of"
          height="12"
          :aria-label="t('theFileIsBeingMade')"
        />
      </div>
    </template>
    <v-btn
      v-else-if="file"
      color="primary"
      size="large"
      :href="`/api/handouts/${file.id}/file`"
      download
    >
      {{ t("saveName", { name: file.name }) }}
    </v-btn>
  </div>
</template>

<style scoped>
.some {
  min-height: 52px;
  margin-top: var(--gap-8);
}
progress {
  width: 260px;
  height: 18px;
  accent-color: var(--line);
  vertical-align: middle;
  margin-left: var(--gap-8);
}
</style>
