<script setup lang="ts">
/** Everybody on one clock: a tap takes the time. */
import { t } from "../../../messages/sheet";
import { ref } from "vue";
import Confirm from "../../../parts/form/Confirm.vue";
import LoadState from "../../../parts/LoadState.vue";
import ConditionsLine from "../../parts/ConditionsLine.vue";
import FormsLine from "../../parts/FormsLine.vue";
import InZone from "../../parts/InZone.vue";
import MessageLine from "../../message/MessageLine.vue";
import OwnClock from "../../parts/OwnClock.vue";
import { useHold } from "../../useHold";
import type { Activity, Row } from "../../useTest";
import GateLine from "./GateLine.vue";
import TapControls from "./TapControls.vue";
import RunningClock from "./RunningClock.vue";
import TapTiles from "./TapTiles.vue";
import * as taps from "./taps";
import { useTap } from "./useTap";

const props = defineProps<{ activity: Activity; standIns: boolean }>();
const tapping = useTap(() => props.activity);
const { test, own, state, presses, problem, holds, cap, left, unknown, waves, wave, why } = tapping;
const { query, board, sheet } = test;
const hold = useHold(sheet);
const asking = ref<"again" | "end" | null>(null);
/** Somebody who crossed and is being named. */
const naming = ref<number | null>(null);
const capped = ref(false);

function tapOn(row: Row) {
  problem.value = "";
  if (why.value) {
    tapping.notDone(row);
    return;
  }
  if (naming.value === null) {
    tapping.tap(row.child.pupil_id);
    return;
  }
  if (tapping.isDone(row)) problem.value = t("childAlreadyHasATime", { child: row.child.name });
  else tapping.name(naming.value, row);
  naming.value = null;
}
function confirmed() {
  if (asking.value === "end") tapping.endAll();
  else tapping.start();
  asking.value = null;
}
</script>

<template>
  <LoadState :query="query">
    <InZone name="own">
      <OwnClock
        :name="activity.test"
        :going="t('nGoing', { n: left.length })"
        :begun="own.goAt.value !== null"
      >
        <RunningClock :go-at="own.goAt.value" :cap="cap" @capped="capped = $event" />
      </OwnClock>
    </InZone>
    <InZone v-if="board" name="main">
      <v-btn v-if="state.started === null" color="primary" size="x-large" @click="tapping.start">
        {{ wave === null ? t("startEveryone") : t("startWaveWave", { wave }) }}
      </v-btn>
      <v-btn
        v-else-if="wave !== null && wave < waves && !left.length"
        color="primary"
        size="x-large"
        @click="tapping.toWave(wave + 1)"
      >
        {{ t("nextWaveWave", { wave: wave + 1 }) }}
      </v-btn>
      <!-- Its place is there from the start: nothing moves when the most is reached. -->
      <v-btn
        v-else-if="holds && board.cap_typed"
        :disabled="!capped || !left.length"
        color="primary"
        size="x-large"
        @click="tapping.allReached"
      >
        {{ t("allNLeftReachedSecondsS", { n: left.length, seconds: board.cap_typed }) }}
      </v-btn>
      <v-btn v-else-if="!holds" size="x-large" color="primary" @click="asking = 'end'">
        {{ t("allIn") }}
      </v-btn>
    </InZone>
    <TapControls v-if="board" :tapping="tapping" @again="asking = 'again'" />
    <InZone v-if="board" name="tools">
      <ConditionsLine :board="board" :child="null" :own="{}" />
      <FormsLine :test="test" />
      <GateLine
        v-if="standIns && !holds && state.started !== null"
        :activity-id="activity.id"
        :started-at="state.started"
        @passed="tapping.tap"
      />
    </InZone>
    <MessageLine
      :sheet="sheet"
      :hold="hold"
      :problem="problem || own.problem.value"
      :cannot-undo="!presses.length"
      @undo="tapping.undo"
      @right="hold.right"
      @later="hold.postpone"
      @decide="hold.decide"
    >
      <p v-if="unknown.length" class="unknown" role="status">
        <strong>{{ t("whoWasIt") }}</strong>
        <button
          v-for="one in unknown"
          :key="one.id"
          type="button"
          class="tool"
          :aria-pressed="naming === one.id"
          @click="naming = naming === one.id ? null : one.id"
        >
          {{ taps.asTyped(one.at) }}
        </button>
        <span v-if="naming !== null">{{ t("nowTapTheChild") }}</span>
      </p>
    </MessageLine>
    <section v-if="board" class="taps">
      <TapTiles :tapping="tapping" :naming="naming" @tap="tapOn" />
      <Confirm
        :model-value="asking !== null"
        :title="asking === 'end' ? t('isEveryoneIn') : t('startEveryoneAgain')"
        :words="
          asking === 'end' ? t('childrenWhoHaveNotFinishedKeep') : t('theClockGoesBackToZero')
        "
        :yes="asking === 'end' ? t('allIn') : t('startAgain')"
        @update:model-value="asking = null"
        @yes="confirmed"
      />
    </section>
  </LoadState>
</template>

<style scoped src="./tap.css"></style>
