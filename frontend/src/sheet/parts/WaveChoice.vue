<script setup lang="ts">
import { t } from "../../messages/sheet";
/** Who goes by the clock that is on, where a test goes in waves. */
type Goes = number | "all";
defineProps<{ waves: number; wave: number | null }>();
const emit = defineEmits<{ choose: [to: Goes] }>();
</script>

<template>
  <v-select
    v-if="waves > 1"
    class="wave"
    :model-value="(wave ?? 'all') as Goes"
    :aria-label="t('whoGoesWithThisClock')"
    :prefix="t('goes')"
    :items="[
      ...Array.from({ length: waves }, (_, at) => at + 1).map((n) => ({
        value: n,
        title: t('waveWave', { wave: n }),
      })),
      { value: 'all', title: t('everyone') },
    ]"
    @update:model-value="emit('choose', $event as Goes)"
  />
</template>

<style scoped>
.goes {
  flex: none;
  flex-wrap: nowrap;
}
</style>
