<script setup lang="ts">
/** The progressive shuttle run, called and taken on one screen. */
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
    problem.value = `${row.child.name} goes in wave ${row.wave}.`;
  else if (!row) problem.value = `There is no child ${text || "without a number"} here.`;
  else if (beeping.score(row)) problem.value = `${row.child.name} is out already.`;
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
      <OwnClock :name="activity.test" :going="`${running} running`" :begun="run.startedAt !== null">
        <p class="figure digits" data-testid="stage">{{ stage }}</p>
        <span class="sr-only" data-testid="running">{{ running }} running</span>
      </OwnClock>
    </InZone>
    <InZone v-if="board && on" name="main">
      <v-btn v-if="run.startedAt === null" color="primary" size="x-large" @click="beeping.start">
        {{ wave === null ? "Start" : `Start wave ${wave}` }}
      </v-btn>
      <v-btn
        v-else-if="ended && wave !== null && wave < waves"
        color="primary"
        size="x-large"
        @click="beeping.toWave(wave + 1)"
      >
        To wave {{ wave + 1 }}
      </v-btn>
      <v-btn v-else :disabled="ended" color="primary" size="x-large" @click="asking = 'end'">
        All stop
      </v-btn>
    </InZone>
    <InZone v-if="board && on" name="tools">
      <span class="figure speed">Stage {{ on.stage }} · {{ on.speed }} km/h</span>
      <WaveChoice :waves="waves" :wave="wave" @choose="beeping.toWave" />
      <form v-if="run.startedAt !== null" class="line one" @submit.prevent="byNumber">
        <label class="line">
          Number
          <input
            ref="numberField"
            v-model="typed"
            class="field num"
            inputmode="numeric"
            v-bind="LITERAL"
            aria-label="Number of the child who missed the line"
          />
        </label>
      </form>
      <label class="line one">
        Next tap
        <select v-model="why" class="field" aria-label="What the next tap keeps">
          <option value="">a line missed</option>
          <option v-for="one in reasons" :key="one.code" :value="one.key">{{ one.words }}</option>
        </select>
      </label>
      <FormsLine :test="test" />
      <span class="space" />
      <button v-if="run.startedAt !== null" type="button" class="tool" @click="asking = 'again'">
        Start again
      </button>
    </InZone>
    <InDrawer what="brief">
      <p class="board care">
        Tap a child who misses the line: a warning first, out at the second in a row. No maximal run
        for an unwell child; taking part is optional. Stop for pain, dizziness, chest tightness or
        wheeze.
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
        :title="asking === 'end' ? 'Does everybody stop?' : 'Start everybody again?'"
        :words="
          asking === 'end'
            ? 'Who still runs keeps the last line made.'
            : 'The beeps begin anew. Scores that were taken stay; new ones are kept beside them.'
        "
        :yes="asking === 'end' ? 'All stop' : 'Start again'"
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
  font-size: 1.75rem;
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
  border-left: 8px solid var(--pennant);
}
</style>
