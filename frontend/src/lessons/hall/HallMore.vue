<script setup lang="ts">
/** What is wanted seldom while the clock runs: length, swap, again, wall, sound. */
import { mdiAccountVoice, mdiVolumeHigh, mdiVolumeOff } from "@mdi/js";
import { computed } from "vue";
import { ask } from "../../parts/form/ask";
import { useConductor } from "./clock/useConductor";
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

async function startAgain() {
  const yes = await ask({
    title: "Start the whole lesson again?",
    words:
      "The clock goes back to the beginning. Scores and pulses are not touched, and waves already worked keep their clock.",
    yes: "Start again",
  });
  if (yes) props.hall.start();
}
async function again() {
  const yes = await ask({
    title: "Do this go again?",
    words:
      "The clock goes back to before this go and waits. That it was run before stays on record; scores are not touched.",
    yes: "Do it again",
  });
  if (yes) props.hall.again();
}
const WALLS = { clock: "the clock", names: "names too", scores: "names and scores" } as const;
async function wall(event: Event) {
  const chosen = event.target as HTMLSelectElement;
  const what = chosen.value as keyof typeof WALLS;
  chosen.value = state.value?.wall ?? "clock";
  const yes =
    what === "clock" ||
    (await ask({
      title: "Show this to everybody in the hall?",
      words:
        what === "scores"
          ? "Names and scores of the test that is on will be on the wall. Weaker children are easily shamed by that."
          : "The children’s names will be on the wall.",
      yes: "Show it",
    }));
  if (yes) lead.wall(what);
}
</script>

<template>
  <div class="more no-print">
    <template v-if="live">
      <v-btn :class="where" size="large" variant="outlined" @click="hall.back">Back</v-btn>
      <v-btn :class="where" size="large" variant="outlined" @click="hall.skip">Skip</v-btn>
      <v-btn size="large" variant="outlined" @click="lead.stretch(-15_000)">− 15 s</v-btn>
      <v-btn size="large" variant="outlined" @click="lead.stretch(15_000)">+ 15 s</v-btn>
      <v-btn size="large" variant="outlined" @click="$emit('swap')">Swap</v-btn>
    </template>
    <v-btn class="small-only" size="large" variant="outlined" @click="$emit('fill')">
      Fill the screen
    </v-btn>
    <v-btn v-if="canAgain" size="large" variant="outlined" @click="again">This go again</v-btn>
    <v-btn v-if="state" size="large" variant="text" @click="startAgain">Start again</v-btn>
    <v-btn size="large" variant="outlined" :href="`/lessons/${lessonId}/projector`" target="_blank">
      Projector
    </v-btn>
    <label v-if="live" class="line">
      The wall shows
      <select class="field tall" :value="state?.wall ?? 'clock'" @change="wall">
        <option v-for="(words, what) in WALLS" :key="what" :value="what">{{ words }}</option>
      </select>
    </label>
    <v-btn
      :icon="sound ? mdiVolumeHigh : mdiVolumeOff"
      variant="text"
      :aria-label="sound ? 'Sound is on' : 'Sound is off'"
      @click="sound = !sound"
    />
    <v-btn
      :icon="mdiAccountVoice"
      :variant="voice ? 'outlined' : 'text'"
      :aria-label="voice ? 'Voice is on' : 'Voice is off'"
      :aria-pressed="voice"
      @click="voice = !voice"
    />
    <span v-if="unsent" class="unsent" role="status">◁ kept on this device, not sent yet</span>
  </div>
</template>

<style scoped>
.more {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 8px;
}
@media (min-width: 1024px) {
  .small-only {
    display: none;
  }
}
.tall {
  min-height: 48px;
}
.unsent {
  font-weight: 700;
  color: rgb(var(--v-theme-warning));
}
</style>
