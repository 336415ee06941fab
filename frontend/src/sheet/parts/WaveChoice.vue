<script setup lang="ts">
import { t } from "../../messages/sheet";
/** Who goes by the clock that is on, where a test goes in waves. */
defineProps<{ waves: number; wave: number | null }>();
const emit = defineEmits<{ choose: [to: number | "all"] }>();
function chose(text: string) {
  emit("choose", text === "all" ? "all" : Number(text));
}
</script>

<template>
  <label v-if="waves > 1" class="line goes">
    {{ t("goes") }}
    <select
      :value="wave ?? 'all'"
      class="field wave"
      :aria-label="t('whoGoesWithThisClock')"
      @change="chose(($event.target as HTMLSelectElement).value)"
    >
      <option v-for="n in waves" :key="n" :value="n">{{ t("waveWave", { wave: n }) }}</option>
      <option value="all">{{ t("everyone") }}</option>
    </select>
  </label>
</template>

<style scoped>
.goes {
  flex: none;
  flex-wrap: nowrap;
}
</style>
