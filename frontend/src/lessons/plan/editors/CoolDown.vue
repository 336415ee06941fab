<script setup lang="ts">
/** Steps to walk, and the time that follows. */
import SettledField from "../../../parts/form/SettledField.vue";
import { t } from "../../../messages/lessons";
import type { EntryOf } from "../blocks";
import SecondsField from "../SecondsField.vue";

const form = defineModel<EntryOf<"cool_down">>({ required: true });
</script>

<template>
  <SecondsField v-model="form.seconds" />
  <SettledField
    v-model.number="form.steps"
    class="num"
    type="number"
    min="0"
    :label="t('walkingSteps')"
  />
</template>

<style scoped>
.num {
  width: 96px;
}
</style>
