<script setup lang="ts">
/** The conductor's clock in one line, for the lesson's other screens: it goes on calling. */
import { computed } from "vue";
import * as conductor from "./conductor";
import { useConductor } from "./useConductor";

const { plan, state, place, flash, togglePause } = useConductor();
const segment = computed(() =>
  plan.value ? plan.value.segments[conductor.segmentAt(plan.value, place.value)] : undefined,
);
const left = computed(() =>
  segment.value ? conductor.secondsLeft(segment.value, place.value) : 0,
);
const paused = computed(() => state.value?.paused_ms != null);
</script>

<template>
  <div v-if="segment" class="strip no-print" :class="segment.phase">
    <span class="figure digits" data-testid="strip-clock">{{ conductor.clockShown(left) }}</span>
    <span class="figure words">{{ flash || segment.label }}</span>
    <v-btn size="large" variant="outlined" @click="togglePause">
      {{ paused ? "Go on" : "Pause" }}
    </v-btn>
    <v-btn size="large" variant="text" :to="{ name: 'conduct' }">Conductor</v-btn>
  </div>
</template>

<style scoped>
.strip {
  display: flex;
  align-items: center;
  gap: 14px;
  border: 3px solid var(--line);
  border-radius: 6px;
  background: var(--board);
  padding: 4px 14px;
  margin-bottom: 12px;
}
.digits {
  font-size: 2.6rem;
  line-height: 1;
  min-width: 2.4em;
  color: var(--chalk);
}
.work .digits,
.count .digits {
  color: var(--ink);
}
.words {
  flex: 1;
  font-size: 1.6rem;
}
</style>
