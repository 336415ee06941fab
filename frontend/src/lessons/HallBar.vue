<script setup lang="ts">
/** The hall's clock in one line, tall or folded: what now, how long, what next, and the buttons. */
import { computed } from "vue";
import * as conductor from "./conductor";
import { phaseWords, useClockWords } from "./useClockWords";
import { useConductor } from "./useConductor";
import HallButtons from "./HallButtons.vue";
import type { Hall } from "./useHall";

const props = defineProps<{ hall: Hall; folded: boolean; moreShown: boolean }>();
defineEmits<{ fill: []; more: [] }>();
const { plan, state, place, flash } = useConductor();
const { segment, paused, waiting, isOwnClock, stopOn } = props.hall;
const words = useClockWords(plan, state, place);
const wave = computed(() => {
  const { wave: number = 0, block } = segment.value ?? {};
  const called = plan.value?.segments.some(
    (one) => one.block === block && one.phase === "work" && one.wave > 1,
  );
  return called && number ? `, wave ${number}` : "";
});
const what = computed(() => {
  if (words.over.value) return "The end";
  if (flash.value && !waiting.value) return flash.value;
  return phaseWords(segment.value?.phase) ?? segment.value?.label ?? "";
});
</script>

<template>
  <div class="hall-bar no-print" :class="[segment?.phase, { folded }]">
    <p
      v-if="!isOwnClock || !state"
      class="figure digits"
      :data-testid="folded ? 'strip-clock' : 'clock'"
    >
      {{ words.over.value ? "0" : conductor.clockShown(words.left.value) }}
    </p>
    <div class="words">
      <p class="figure now" :class="{ flash: flash && !waiting }" data-testid="now">
        <span v-if="waiting" class="stands" data-testid="waiting">Ready?</span>
        <span v-else-if="paused" class="stands" data-testid="paused">paused</span>
        <template v-if="!waiting">{{ what }}</template>
      </p>
      <p class="quiet">
        <strong data-testid="block">{{ stopOn?.label }}</strong>{{ wave }} · next:
        {{ words.following.value }}
      </p>
    </div>
    <HallButtons
      class="side"
      :hall="hall"
      :large="!folded"
      :filled="false"
      :more-shown="moreShown"
      @fill="$emit('fill')"
      @more="$emit('more')"
    />
    <p v-if="!folded" class="track" aria-hidden="true">
      <span class="runner" :style="{ left: `${words.share.value * 100}%` }" />
    </p>
  </div>
</template>

<style scoped>
.hall-bar {
  display: grid;
  grid-template-columns: auto 1fr auto;
  align-items: center;
  gap: 4px 22px;
  border: 3px solid var(--line);
  border-radius: 6px;
  background: var(--board);
  padding: 8px 18px 2px;
  position: sticky;
  top: 0;
  z-index: 4;
}
.hall-bar.folded {
  padding: 4px 14px;
}
.digits {
  font-size: clamp(4rem, 10vw, 8rem);
  line-height: 0.86;
  min-width: 2em;
  font-variant-numeric: tabular-nums;
  color: var(--chalk);
}
.work .digits,
.count .digits {
  color: var(--ink);
}
.folded .digits {
  font-size: 2.8rem;
}
.now {
  font-size: clamp(1.8rem, 4vw, 3.4rem);
  line-height: 1.15;
}
.folded .now {
  font-size: 1.6rem;
}
.now.flash {
  color: var(--pennant);
}
.stands {
  line-height: 1;
  border: 3px solid var(--pennant);
  border-radius: 4px;
  padding: 0 10px;
  margin-right: 8px;
}
.side {
  justify-content: end;
}
.track {
  position: relative;
  grid-column: 1 / -1;
  height: 16px;
  border-top: 3px solid var(--line);
}
.runner {
  position: absolute;
  top: -3px;
  width: 14px;
  height: 14px;
  margin-left: -7px;
  background: var(--pennant);
  border-radius: 0 0 3px 3px;
}
@media (max-width: 860px) {
  .hall-bar {
    grid-template-columns: auto 1fr;
    gap: 4px 12px;
  }
  .side {
    grid-column: 1 / -1;
    justify-content: start;
  }
}
/* A phone has the pad below: the clock is one line. */
@media (max-width: 600px) {
  .hall-bar,
  .hall-bar.folded {
    grid-template-columns: auto minmax(0, 1fr) auto;
    gap: 0 8px;
    padding: 2px 6px;
  }
  .hall-bar .digits {
    font-size: 2.2rem;
    min-width: 1.4em;
  }
  .hall-bar .now {
    font-size: 1.15rem;
  }
  .words .quiet,
  .track {
    display: none;
  }
  .side {
    grid-column: auto;
    flex-wrap: nowrap;
    gap: 0;
  }
  .side :deep(.v-btn) {
    padding: 0 10px;
    min-width: 0;
    font-size: 0.9rem;
  }
}
</style>
