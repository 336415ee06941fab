<script setup lang="ts">
/** The time of a test, for a child that takes it without its teacher. */
import { t } from "../../messages/challenges";
import { useGoClock } from "./useGoClock";

const props = defineProps<{ seconds: number }>();
const { phase, shows, start, stop } = useGoClock(() => props.seconds);
</script>

<template>
  <p class="clock" :data-phase="phase">
    <b v-if="phase === 'ready'" class="figure">{{ t("readyN", { n: shows }) }}</b>
    <b v-else-if="phase === 'work'" class="figure left">{{ shows }}</b>
    <b v-else-if="phase === 'over'" role="alert">{{ t("timeIsUp") }}</b>
    <v-btn
      v-if="phase === 'still' || phase === 'over'"
      color="primary"
      variant="outlined"
      @click="start"
      >{{ t("startNSeconds", { n: seconds }) }}</v-btn
    >
    <v-btn v-else variant="outlined" @click="stop">{{ t("stopTheClock") }}</v-btn>
  </p>
</template>

<style scoped>
.clock {
  display: flex;
  align-items: center;
  justify-content: space-between;
  gap: var(--gap-12);
  min-height: 48px;
  margin: 0;
}
.left {
  font-size: var(--type-40);
}
</style>
