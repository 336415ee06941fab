<script setup lang="ts">
/** A loop as a painted oval: the start line, the way round, and where the exact distance ends. */
import { t } from "../messages/catalogue";
import { computed } from "vue";

const props = defineProps<{ lapMm: number; finishMm: number }>();
const W = 360;
const H = 190;
const R = 72;
const LEFT = 96;
const RIGHT = W - 96;
const TOP = 22;
const straight = RIGHT - LEFT;
const round = Math.PI * R;

/** The point a share of the lap after the start, in the middle of the near straight. */
const finish = computed(() => {
  const total = 2 * (straight + round);
  let way = (props.finishMm / props.lapMm) * total;
  const middle = (LEFT + RIGHT) / 2;
  if (way <= straight / 2) return { x: middle + way, y: TOP + 2 * R };
  way -= straight / 2;
  if (way <= round) {
    const angle = Math.PI / 2 - way / R;
    return { x: RIGHT + R * Math.cos(angle), y: TOP + R + R * Math.sin(angle) };
  }
  way -= round;
  if (way <= straight) return { x: RIGHT - way, y: TOP };
  way -= straight;
  if (way <= round) {
    const angle = -Math.PI / 2 - way / R;
    return { x: LEFT + R * Math.cos(angle), y: TOP + R + R * Math.sin(angle) };
  }
  return { x: LEFT + way - round, y: TOP + 2 * R };
});
</script>

<template>
  <svg :viewBox="`0 0 ${W} ${H}`" role="img" :aria-label="t('theCourseWithItsStartAnd')">
    <path
      :d="`M${LEFT} ${TOP}H${RIGHT}a${R} ${R} 0 0 1 0 ${2 * R}H${LEFT}a${R} ${R} 0 0 1 0 ${-2 * R}z`"
      class="way"
    />
    <path :d="`M${W / 2} ${TOP + 2 * R - 13}v26`" class="start" />
    <text :x="W / 2" :y="TOP + 2 * R - 20" text-anchor="middle">{{ t("start") }}</text>
    <path :d="`M${W / 2 - 30} ${TOP + R}h60m-9-7l9 7l-9 7`" class="arrow" />
    <template v-if="finishMm">
      <circle :cx="finish.x" :cy="finish.y" r="8" class="finish" />
      <path :d="`M${finish.x} ${finish.y}v-26l16 6l-16 6`" class="finish" />
    </template>
  </svg>
</template>

<style scoped>
svg {
  width: 100%;
  max-width: 420px;
}
.way {
  fill: none;
  stroke: var(--line);
  stroke-width: 3;
}
.start {
  stroke: var(--ink);
  stroke-width: 5;
}
.arrow {
  fill: none;
  stroke: var(--chalk);
  stroke-width: 2.5;
}
.finish {
  fill: var(--pennant);
  stroke: var(--pennant);
  stroke-width: 2;
}
text {
  fill: var(--ink);
  font-family: var(--figure);
  font-size: var(--type-16);
}
</style>
