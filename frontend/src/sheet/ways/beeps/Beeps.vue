<script setup lang="ts">
/** The progressive shuttle run, called and taken on one screen. */
import { t } from "../../../messages/sheet";
import { computed, ref, useTemplateRef } from "vue";
import Confirm from "../../../parts/form/Confirm.vue";
import LoadState from "../../../parts/LoadState.vue";
import FormsLine from "../../parts/FormsLine.vue";
import InDrawer from "../../parts/InDrawer.vue";
import InZone from "../../parts/InZone.vue";
import MessageLine from "../../message/MessageLine.vue";
import OwnClock from "../../parts/OwnClock.vue";
import WaveChoice from "../../parts/WaveChoice.vue";
import { useNumberField } from "../../parts/useNumberField";
import { LITERAL } from "../../useEntry";
import { useHold } from "../../useHold";
import type { Activity } from "../../useTest";
import BeepsTiles from "./BeepsTiles.vue";
import BeepsTrack from "./BeepsTrack.vue";
import { useBeeps } from "./useBeeps";

const props = defineProps<{ activity: Activity }>();
const beeping = useBeeps(() => props.activity);
const { test, run, presses, waves, wave, problem, why, reasons, on, countdown } = beeping;
const { shown, running, ended } = beeping;
const { query, board } = test;
const hold = useHold(test.sheet);
const asking = ref<"again" | "end" | null>(null);
const typed = ref("");
const stage = computed(() => {
  if (ended.value) return "End";
  return countdown.value || `${on.value?.stage}.${on.value?.shuttle}`;
});

function byNumber() {
  const text = typed.value.trim();
  typed.value = problem.value = "";
  const row = test.rows.value.find((one) => String(one.child.number) === text);
  if (row && !shown.value.includes(row))
    problem.value = t("childGoesInWaveWave", { child: row.child.name, wave: row.wave });
  else if (!row)
    problem.value = t("thereIsNoChildNumberHere", { number: text || t("withoutANumber") });
  else if (beeping.score(row))
    problem.value = t("childHasAlreadyStopped", { child: row.child.name });
  else beeping.tap(row);
}
function confirmed() {
  if (asking.value === "end") beeping.endAll();
  else beeping.start();
  asking.value = null;
}
useNumberField(useTemplateRef<HTMLInputElement>("numberField"));
</script>

<template>
  <LoadState :query="query">
    <InZone v-if="on" name="own">
      <OwnClock
        :name="activity.test"
        :going="t('nRunning', { n: running })"
        :begun="run.startedAt !== null"
      >
        <p class="figure digits" data-testid="stage">{{ stage }}</p>
        <span class="sr-only" data-testid="running">{{ t("nRunning", { n: running }) }}</span>
      </OwnClock>
    </InZone>
    <InZone v-if="board && on" name="main">
      <v-btn v-if="run.startedAt === null" color="primary" size="x-large" @click="beeping.start">
        {{ wave === null ? t("start") : t("startWaveWave", { wave }) }}
      </v-btn>
      <v-btn
        v-else-if="ended && wave !== null && wave < waves"
        color="primary"
        size="x-large"
        @click="beeping.toWave(wave + 1)"
      >
        {{ t("nextWaveWave", { wave: wave + 1 }) }}
      </v-btn>
      <v-btn v-else :disabled="ended" color="primary" size="x-large" @click="asking = 'end'">
        {{ t("stopAll") }}
      </v-btn>
    </InZone>
    <InZone v-if="board && on" name="tools">
      <span class="figure speed">{{
        t("stageStageSpeedKmH", { stage: on.stage, speed: on.speed })
      }}</span>
      <WaveChoice :waves="waves" :wave="wave" @choose="beeping.toWave" />
      <form v-if="run.startedAt !== null" class="line one" @submit.prevent="byNumber">
        <label class="line">
          {{ t("number") }}
          <input
            ref="numberField"
            v-model="typed"
            class="field num"
            inputmode="numeric"
            v-bind="LITERAL"
            :aria-label="t('numberOfTheChildWhoMissed')"
          />
        </label>
      </form>
      <v-select
        v-model="why"
        :aria-label="t('whatTheNextTapRecords')"
        :prefix="t('nextTap')"
        :items="[
          { value: '', title: t('aMissedLine') },
          ...reasons.map((one) => ({ value: one.key, title: one.words })),
        ]"
      />
      <FormsLine :test="test" />
      <span class="space" />
      <button v-if="run.startedAt !== null" type="button" class="tool" @click="asking = 'again'">
        {{ t("startAgain") }}
      </button>
    </InZone>
    <InDrawer what="brief">
      <p class="board care">
        {{ t("tapAChildWhoMissesThe") }}
      </p>
    </InDrawer>
    <MessageLine
      :sheet="test.sheet"
      :hold="hold"
      :problem="problem"
      :cannot-undo="!presses.length"
      @undo="beeping.undo"
      @right="hold.right"
      @later="hold.postpone"
      @decide="hold.decide"
    />
    <section v-if="board && on" class="run">
      <BeepsTrack :beeping="beeping" />
      <BeepsTiles :beeping="beeping" />
      <Confirm
        :model-value="asking !== null"
        :title="asking === 'end' ? t('stopEveryone') : t('startEveryoneAgain')"
        :words="
          asking === 'end'
            ? t('childrenStillRunningGetTheLast')
            : t('theBeepsStartAgainScoresAlready')
        "
        :yes="asking === 'end' ? t('stopAll') : t('startAgain')"
        @update:model-value="asking = null"
        @yes="confirmed"
      />
    </section>
  </LoadState>
</template>

<style scoped src="../capture.css"></style>
<style scoped>
.digits {
  flex: none;
  margin: 0;
  font-size: var(--digits);
  line-height: 0.9;
  min-width: 2.1em;
  font-variant-numeric: tabular-nums;
}
.speed {
  font-size: var(--type-28);
  white-space: nowrap;
}
.one {
  flex: none;
  flex-wrap: nowrap;
}
.num {
  width: 84px;
}
.care {
  border-left: var(--bar) solid var(--pennant);
}
</style>
