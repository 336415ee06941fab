<script setup lang="ts">
/** What is wanted seldom while the clock runs: length, swap, again, wall, sound. */
import { choices } from "../../parts/form/choices";
import { t } from "../../messages/lessons";
import { mdiAccountVoice, mdiVolumeHigh, mdiVolumeOff } from "@mdi/js";
import { computed, ref } from "vue";
import { ask } from "../../parts/form/ask";
import { useConductor } from "./clock/useConductor";
import Helpers from "./Helpers.vue";
import type { Hall } from "./useHall";

const props = defineProps<{ hall: Hall; lessonId: string }>();
defineEmits<{ swap: []; fill: [] }>();
const lead = useConductor();
const { state, sound, voice, unsent } = lead;
const { live, clock, hasOwn } = props.hall;
/** Where the strip has no room for what leads the plan, it stands here. */
const where = computed(() => (hasOwn.value ? "" : "small-only"));
/** A go of the test that is on can be done again once it has begun. */
const canAgain = computed(() => clock.value !== null && clock.value.phase !== "before");

const showsHelpers = ref(false);

async function startAgain() {
  const yes = await ask({
    title: t("startTheWholeLessonAgain"),
    words: t("theClockGoesBackToThe"),
    yes: t("startAgain"),
  });
  if (yes) props.hall.start();
}
async function again() {
  const yes = await ask({
    title: t("repeatThisGo"),
    words: t("theClockGoesBackToBefore"),
    yes: t("repeat"),
  });
  if (yes) props.hall.again();
}
const WALLS = {
  clock: t("theClock"),
  names: t("namesToo"),
  scores: t("namesAndScores"),
  code: t("theHelpersCode"),
} as const;
async function wall(what: keyof typeof WALLS) {
  const yes =
    what === "clock" ||
    what === "code" ||
    (await ask({
      title: t("showThisToEveryoneInThe"),
      words: what === "scores" ? t("namesAndScoresOfTheCurrent") : t("theChildrensNamesWillBeOn"),
      yes: t("show"),
    }));
  if (yes) lead.wall(what);
}
</script>

<template>
  <div class="more no-print">
    <template v-if="live">
      <v-btn :class="where" size="large" variant="outlined" @click="hall.back">{{
        t("back")
      }}</v-btn>
      <v-btn :class="where" size="large" variant="outlined" @click="hall.skip">{{
        t("skip")
      }}</v-btn>
      <v-btn size="large" variant="outlined" @click="lead.stretch(-15_000)">{{
        t("fifteenSecondsLess")
      }}</v-btn>
      <v-btn size="large" variant="outlined" @click="lead.stretch(15_000)">{{
        t("fifteenSecondsMore")
      }}</v-btn>
      <v-btn size="large" variant="outlined" @click="$emit('swap')">{{ t("swap") }}</v-btn>
    </template>
    <v-btn class="small-only" size="large" variant="outlined" @click="$emit('fill')">
      {{ t("fullScreen") }}
    </v-btn>
    <v-btn v-if="canAgain" size="large" variant="outlined" @click="again">{{
      t("repeatThisGo2")
    }}</v-btn>
    <v-btn v-if="state" size="large" variant="text" @click="startAgain">{{
      t("startAgain")
    }}</v-btn>
    <v-btn size="large" variant="outlined" :href="`/lessons/${lessonId}/projector`" target="_blank">
      {{ t("projector") }}
    </v-btn>
    <v-btn size="large" variant="outlined" @click="showsHelpers = true">{{ t("helpers") }}</v-btn>
    <Helpers v-if="showsHelpers" :lesson-id="lessonId" @done="showsHelpers = false" />
    <v-select
      v-if="live"
      :model-value="state?.wall ?? 'clock'"
      :label="t('wallShows')"
      :items="choices(WALLS)"
      @update:model-value="wall"
    />
    <v-btn
      :icon="sound ? mdiVolumeHigh : mdiVolumeOff"
      variant="text"
      :aria-label="sound ? t('soundOn') : t('soundOff')"
      @click="sound = !sound"
    />
    <v-btn
      :icon="mdiAccountVoice"
      :variant="voice ? 'outlined' : 'text'"
      :aria-label="voice ? t('voiceOn') : t('voiceOff')"
      :aria-pressed="voice"
      @click="voice = !voice"
    />
    <span v-if="unsent" class="unsent" role="status">{{ t("savedOnThisDeviceNotSent") }}</span>
  </div>
</template>

<style scoped>
.more {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: var(--gap-8);
}
@media (min-width: 1024px) {
  .small-only {
    display: none;
  }
}
.unsent {
  font-weight: 700;
  color: rgb(var(--v-theme-warning));
}
</style>
