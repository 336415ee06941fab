<script setup lang="ts">
/** A proposal beside the plan as it is: taken, or left. */
import { t } from "../../messages/lessons";
import type { Schemas } from "../../api/client";
import { vFocus } from "../../parts/form/focus";
import { minutes } from "../../parts/time/minutes";

defineProps<{ page: Schemas["PlanPage"] }>();
const proposal = defineModel<{ title: string; page: Schemas["PlanPage"] } | null>({
  required: true,
});
const emit = defineEmits<{ take: [] }>();
</script>

<template>
  <v-dialog
    :model-value="proposal !== null"
    :aria-label="proposal?.title"
    max-width="640"
    @update:model-value="proposal = null"
  >
    <div v-if="proposal" class="board">
      <h2>{{ proposal.title }}</h2>
      <ol class="proposed">
        <li v-for="(block, index) in proposal.page.blocks" :key="index">
          <strong>{{ block.entry.label }}</strong> {{ minutes(block.seconds) }}
          <span v-if="page.blocks[index]?.entry.label !== block.entry.label" class="tag">{{
            t("wasMinutes", { minutes: page.blocks[index]?.entry.label })
          }}</span>
          <span v-else-if="page.blocks[index]?.seconds !== block.seconds" class="tag">{{
            t("wasMinutes", { minutes: minutes(page.blocks[index]?.seconds ?? 0) })
          }}</span>
        </li>
      </ol>
      <p>{{ t("timeInTotal", { time: minutes(proposal.page.total_seconds) }) }}</p>
      <div class="line mt-2">
        <v-btn v-focus color="primary" @click="emit('take')">{{ t("useThis") }}</v-btn>
        <v-btn variant="outlined" @click="proposal = null">{{ t("cancel") }}</v-btn>
      </div>
    </div>
  </v-dialog>
</template>

<style scoped>
.proposed {
  padding-left: var(--gap-24);
  margin: var(--gap-8) 0;
}
</style>
