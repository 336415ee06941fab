<script setup lang="ts">
import { t } from "../../messages/lessons";
import SettledField from "../../parts/form/SettledField.vue";
/** So many seconds of a block. */
withDefaults(defineProps<{ words?: string; disabled?: boolean }>(), { words: t("seconds") });
const seconds = defineModel<number | null | undefined>({ required: true });
</script>

<template>
  <SettledField
    v-model.number="seconds"
    class="num"
    type="number"
    min="0"
    max="7200"
    step="15"
    :label="words"
    :disabled="disabled"
  />
</template>

<style scoped>
.num {
  width: 96px;
}
</style>
