<script setup lang="ts">
/** What now, one huge clock, what next: the same for the conductor and the projector. */
import { t } from "../../../messages/lessons";
import { computed, toRef } from "vue";
import * as conductor from "./conductor";
import { phaseWords, useClockWords } from "./useClockWords";

const props = defineProps<{
  plan: conductor.Timeline;
  state: conductor.Conduct | null;
  place: number;
  flash: string;
  /** The clock stands until somebody goes on. */
  waiting?: boolean;
}>();
const { index, segment, block, left, following, waitsFor, over, share } = useClockWords(
  toRef(() => props.plan),
  toRef(() => props.state),
  toRef(() => props.place),
);
/** "Move on" between stations says itself what to do. */
const large = computed(() => {
  const one = segment.value;
  if (one?.phase === "swap" && one.label !== block.value?.label) return one.label;
  return phaseWords(one?.phase) ?? one?.label;
});
/** Named above only where the large words say something else. */
const showsBlock = computed(
  () => Boolean(phaseWords(segment.value?.phase)) || segment.value?.label !== block.value?.label,
);
const paused = computed(() => props.state?.paused_ms != null);
/** Who is where in the round that is on, or that comes next. */
const round = computed(() => {
  const rotation = block.value?.rotation;
  if (!rotation?.rounds.length || over.value) return null;
  const works = props.plan.segments
    .map((one, place) => ({ one, place }))
    .filter(({ one }) => one.block === segment.value?.block && one.phase === "work");
  const at = works.findIndex(({ place }) => place >= index.value);
  const number = at < 0 ? works.length - 1 : at;
  const stations = rotation.rounds[number];
  if (!stations) return null;
  return rotation.groups.map((group, place) => ({
    group,
    station: rotation.stations[stations[place] ?? -1] ?? "",
  }));
});
</script>

<template>
  <div class="hall-clock" :class="[segment?.phase, { shared: round || $slots.default }]">
    <p class="block figure" data-testid="block">
      <span :class="{ 'sr-only': !over && !showsBlock }">
        {{ over ? t("theEnd") : block?.label }}
      </span>
      <span v-if="waiting" class="paused" data-testid="waiting">{{ waitsFor }}</span>
      <span v-else-if="paused" class="paused" data-testid="paused">{{ t("paused") }}</span>
    </p>
    <p class="now figure" :class="{ flash }" data-testid="now">
      <template v-if="over">{{ t("wellDone") }}</template>
      <template v-else>
        {{ flash || large }}
        <span
          v-if="segment && segment.label !== block?.label && !flash && segment.label !== large"
          class="movement"
        >
          {{ segment.label }}
        </span>
      </template>
    </p>
    <p class="digits figure" data-testid="clock">{{ over ? "0" : conductor.clockShown(left) }}</p>
    <ul v-if="round" class="round" data-testid="round">
      <li v-for="one in round" :key="one.group">
        <span class="quiet">{{ one.group }}</span>
        <strong class="figure">{{ one.station }}</strong>
        <slot name="group" :group="one.group" />
      </li>
    </ul>
    <slot />
    <p class="next">
      <i18n-t keypath="lessons.nextStrong" scope="global"
        ><template #strong
          ><strong>{{ over ? "–" : following }}</strong></template
        ></i18n-t
      >
    </p>
    <div class="track" aria-hidden="true">
      <span
        v-for="one in plan.blocks"
        :key="one.from_ms"
        class="mark"
        :style="{ left: `${(one.from_ms / plan.total_ms) * 100}%` }"
      />
      <span class="runner" :style="{ left: `${share * 100}%` }" />
    </div>
  </div>
</template>

<style scoped>
.hall-clock {
  text-align: center;
}
.block {
  font-size: clamp(1.6rem, 4vw, 2.8rem);
  color: var(--chalk);
  min-height: 1.1em;
}
.paused {
  border: var(--line-3) solid var(--pennant);
  border-radius: var(--radius);
  padding: 0 var(--gap-12);
  margin-left: var(--gap-12);
  color: var(--ink);
}
.now {
  font-size: clamp(2.6rem, 8vw, 6rem);
  min-height: 1.1em;
}
.now.flash {
  color: var(--pennant);
}
.movement {
  color: var(--line);
}
.digits {
  font-size: clamp(6rem, min(var(--clock-digits, 30vh), 38vw), 30rem);
  line-height: 0.84;
  font-variant-numeric: tabular-nums;
  color: var(--chalk);
}
.work .digits,
.count .digits {
  color: var(--ink);
}
.shared .digits {
  font-size: clamp(5rem, min(20vh, 38vw), 16rem);
}
.round {
  list-style: none;
  padding: 0;
  margin: var(--gap-8) auto;
  display: flex;
  flex-wrap: wrap;
  justify-content: center;
  gap: var(--gap-8);
}
.round li {
  border: var(--line-3) solid var(--line);
  border-radius: var(--radius);
  padding: var(--gap-4) var(--gap-16);
  display: grid;
}
.round strong {
  font-size: clamp(1.6rem, 3.4vw, 2.8rem);
  line-height: 1;
}
.next {
  font-size: clamp(1.2rem, 3vw, 2rem);
  margin-top: var(--gap-8);
}
.track {
  position: relative;
  height: 34px;
  margin: var(--gap-16) var(--gap-24);
  border-top: var(--line-3) solid var(--line);
  border-bottom: var(--line-3) solid var(--line);
}
.mark {
  position: absolute;
  top: 0;
  bottom: 0;
  border-left: var(--line-3) solid var(--line);
}
.runner {
  position: absolute;
  top: 4px;
  width: 20px;
  height: 20px;
  margin-left: calc(-1 * var(--gap-8));
  background: var(--pennant);
  border-radius: var(--radius);
}
</style>
