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
    <label v-for="(words, name) in SECONDS" :key="name" class="labelled">
      {{ words }}
      <input
        :value="form[name] ?? ''"
        class="field num"
        type="number"
        :min="name === 'setup' ? 0 : 3"
        :placeholder="t('usual')"
        @change="form[name] = seconds($event)"
      />
    </label>
    <label class="line">
      <input
        type="checkbox"
        :checked="form.waits !== false"
        @change="form.waits = ($event.target as HTMLInputElement).checked"
      />
      {{ t("eachGoWaitsUntilYouSay") }}
    </label>
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
