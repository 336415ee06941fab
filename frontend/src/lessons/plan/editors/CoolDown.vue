<script setup lang="ts">
/** Steps to walk, and the time that follows. */
import { t } from "../../../messages/lessons";
import type { EntryOf } from "../blocks";
import SecondsField from "../SecondsField.vue";

const form = defineModel<EntryOf<"cool_down">>({ required: true });
</script>

<template>
  <SecondsField v-model="form.seconds" />
  <label class="labelled">
    {{ t("walkingSteps") }}
    <input v-model.lazy.number="form.steps" class="field num" type="number" min="0" />
  </label>
</template>

<style scoped>
.num {
  width: 96px;
}
</style>
