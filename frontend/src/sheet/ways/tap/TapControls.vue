<script setup lang="ts">
/** Laps, try and number: what is pressed beside the clock. */
import { computed, ref, useTemplateRef } from "vue";
import InZone from "../../parts/InZone.vue";
import WaveChoice from "../../parts/WaveChoice.vue";
import { useNumberField } from "../../parts/useNumberField";
import { LITERAL } from "../../useEntry";
import type { Tapping } from "./useTap";

const props = defineProps<{ tapping: Tapping }>();
defineEmits<{ again: [] }>();
const { test, go, state, problem, holds, laps, waves, wave, group, why } = props.tapping;
const { board, rows } = test;
const typed = ref("");
const goes = computed(() => Math.max(1, ...rows.value.map((row) => row.cells.length)));

useNumberField(useTemplateRef<HTMLInputElement>("numberField"));

function byNumber() {
  const text = typed.value.trim();
  typed.value = problem.value = "";
  const row = rows.value.find((one) => String(one.child.number) === text);
  if (row && !group.value.includes(row)) {
    problem.value = `${row.child.name} goes in wave ${row.wave}.`;
    typed.value = text;
  } else if (text && !row) {
    problem.value = `There is no child ${text}: type a number from 1 to ${rows.value.length}.`;
    typed.value = text;
  } else props.tapping.tap(row?.child.pupil_id ?? null);
}
</script>

<template>
  <InZone v-if="board" name="tools">
    <WaveChoice :waves="waves" :wave="wave" @choose="tapping.toWave" />
    <template v-if="state.started !== null">
      <button type="button" class="tool" @click="tapping.tap(null)">Somebody</button>
      <form class="line number" @submit.prevent="byNumber">
        <label class="line">
          Number
          <input
            ref="numberField"
            v-model="typed"
            class="field num"
            inputmode="numeric"
            v-bind="LITERAL"
            aria-label="Number of the child who is in"
          />
        </label>
        <span class="quiet hint"><kbd>Enter</kbd> takes the time; empty for somebody</span>
      </form>
    </template>
    <label v-if="!holds" class="line number">
      Laps
      <input
        :value="laps"
        class="field num"
        type="number"
        min="1"
        max="200"
        :disabled="state.taps.length > 0"
        @change="tapping.setLaps(Number(($event.target as HTMLInputElement).value))"
      />
    </label>
    <label class="line number">
      Next tap
      <select v-model="why" class="field wave" aria-label="What the next tap keeps">
        <option value="">a time</option>
        <option v-for="one in board.reasons" :key="one.code" :value="one.key">
          {{ one.words }}
        </option>
      </select>
    </label>
    <label v-if="goes > 1" class="line number">
      Try
      <select v-model.number="go" class="field">
        <option v-for="n in goes" :key="n" :value="n">{{ n }}</option>
      </select>
    </label>
    <span class="space" />
    <button v-if="state.started !== null" type="button" class="tool" @click="$emit('again')">
      Start again
    </button>
  </InZone>
</template>

<style scoped src="./tap.css"></style>
