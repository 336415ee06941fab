<script setup lang="ts">
/** Which test a block is, and what it takes beside it: the protocol's own where nothing is typed. */
import { t } from "../../../messages/lessons";
import { useTests } from "../../../catalogue/useTests";
import type { EntryOf } from "../blocks";

const form = defineModel<EntryOf<"test">>({ required: true });
const tests = useTests();
const SECONDS = {
  setup: t("secondsToSetUp"),
  get_ready: t("secondsToGetReady"),
  pause: t("secondsBetweenGoes"),
} as const;

function seconds(event: Event): number | null {
  const { value } = event.target as HTMLInputElement;
  return value === "" ? null : Number(value);
}
function choose(id: string | null) {
  form.value.test_id = id;
  form.value.label = tests.data.value?.find((one) => one.id === id)?.name ?? "";
  form.value.activity_id = null;
}
</script>

<template>
  <v-autocomplete
    auto-select-first
    :model-value="form.test_id"
    :items="tests.data.value ?? []"
    item-title="name"
    item-value="id"
    :label="t('test')"
    class="wide"
    @update:model-value="choose"
  />
  <template v-if="form.test_id">
    <v-text-field
      v-for="(words, name) in SECONDS"
      :key="name"
      class="num"
      :model-value="form[name] ?? ''"
      type="number"
      :min="name === 'setup' ? 0 : 3"
      :placeholder="t('usual')"
      :label="words"
      @change="form[name] = seconds($event)"
    />
    <v-checkbox
      :model-value="form.waits !== false"
      :label="t('eachGoWaitsUntilYouSay')"
      @update:model-value="form.waits = $event"
    />
  </template>
</template>

<style scoped>
.num {
  width: 96px;
}
.wide {
  min-width: 320px;
}
</style>
