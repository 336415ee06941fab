<script setup lang="ts">
/** Movements that are counted together, and the test of a total that they count for. */
import SettledField from "../../../parts/form/SettledField.vue";
import { t } from "../../../messages/lessons";
import { computed } from "vue";
import { useTests } from "../../../catalogue/useTests";
import type { EntryOf } from "../blocks";
import SecondsField from "../SecondsField.vue";

const form = defineModel<EntryOf<"rep_target">>({ required: true });
const tests = useTests();
const totals = computed(() => tests.data.value?.filter((one) => one.kind === "total") ?? []);
/** How long the test runs that the target counts for, null for none. */
const itsOwn = computed(() => {
  const { test_id } = form.value;
  return test_id ? (totals.value.find((one) => one.id === test_id)?.seconds ?? null) : null;
});

/** A target runs as long as the test that it counts for. */
function countFor(id: string | null) {
  form.value.test_id = id;
  if (itsOwn.value !== null) form.value.seconds = itsOwn.value;
}
function listed(text: string): string[] {
  return text
    .split(",")
    .map((name) => name.trim())
    .filter(Boolean);
}
</script>

<template>
  <SecondsField v-model="form.seconds" :disabled="itsOwn !== null && itsOwn === form.seconds">
    <span v-if="itsOwn !== null" class="quiet">{{ t("theTimeOfItsTest") }}</span>
  </SecondsField>
  <v-select
    :model-value="form.test_id"
    :items="totals"
    item-title="name"
    item-value="id"
    :label="t('countsFor')"
    clearable
    class="wide"
    @update:model-value="countFor"
  />
  <v-text-field
    class="grow"
    :model-value="(form.names ?? []).join(', ')"
    :label="t('movementsSeparatedByCommas')"
    @change="form.names = listed(($event.target as HTMLInputElement).value)"
  />
  <v-select
    v-model="form.carries"
    :label="t('carriedInFromTheWarmUp')"
    :items="[
      { value: '', title: t('nothing') },
      ...(form.names ?? []).map((name) => ({ value: name, title: name })),
    ]"
  />
  <v-checkbox v-model="form.apart" :label="t('countEasierUsualAndHarderOnes')" />
  <SettledField
    v-if="form.apart"
    v-model.trim="form.weights"
    maxlength="30"
    placeholder="1/1/1"
    size="8"
    :label="t('whatEachOneCounts')"
  />
</template>

<style scoped>
.wide {
  min-width: 320px;
}
.grow {
  flex: 1;
  min-width: 200px;
}
.grow .v-input {
  width: 100%;
}
</style>
