<script setup lang="ts">
/** Where on the 20 m one has to be now: drawn anew every frame of a run, so alone in its own component. */
import { useRafFn } from "@vueuse/core";
import { ref, watch } from "vue";
import type { Beeping } from "./useBeeps";

const props = defineProps<{ beeping: Beeping }>();
const { beeps, last, on, msNow, run, ended } = props.beeping;
const left = ref(0);
const { pause, resume } = useRafFn(() => {
  const from = last.value < 0 ? 0 : (beeps.value[last.value]?.at_ms ?? 0);
  const to = on.value?.at_ms ?? 1;
  const share = Math.min(1, Math.max(0, (msNow() - from) / Math.max(1, to - from)));
  left.value = (last.value % 2 === 0 ? 1 - share : share) * 100;
});
watch(
  () => run.value.startedAt !== null && !ended.value,
  (runs) => (runs ? resume() : pause()),
  { immediate: true },
);
</script>

<template>
  <div class="track" aria-hidden="true">
    <span class="runner" :style="{ left: `${left}%` }" />
  </div>
</template>

<style scoped>
.track {
  position: relative;
  height: 26px;
  margin-bottom: var(--gap-4);
  border-left: var(--bar) solid var(--line);
  border-right: var(--bar) solid var(--line);
  background: linear-gradient(var(--rule), var(--rule)) center / 100% 2px no-repeat;
}
.runner {
  position: absolute;
  top: 2px;
  width: 22px;
  height: 22px;
  margin-left: calc(-1 * var(--gap-12));
  background: var(--pennant);
  border-radius: var(--radius);
}
</style>
