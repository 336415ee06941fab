<script setup lang="ts">
import { t } from "../../messages/lessons";
/** So many seconds of a block. */
withDefaults(defineProps<{ words?: string; disabled?: boolean }>(), { words: t("seconds") });
const seconds = defineModel<number | null | undefined>({ required: true });
</script>

<template>
  <label class="labelled">
    {{ words }}
    <input
      v-model.lazy.number="seconds"
      class="field num"
      type="number"
      min="0"
      max="7200"
      step="15"
      :disabled="disabled"
    />
    <slot />
  </label>
</template>

<style scoped>
.num {
  width: 96px;
}
</style>
