<script setup lang="ts">
/** Start, all in, undo; laps, try and number: what is pressed beside the clock. */
import { useEventListener } from "@vueuse/core";
import { computed, ref, useTemplateRef } from "vue";
import type { Tapping } from "./useTap";

const props = defineProps<{ tapping: Tapping; capped: boolean }>();
const emit = defineEmits<{ ask: [what: "again" | "end"] }>();
const { test, go, state, presses, problem, holds, laps, left } = props.tapping;
const { board, rows } = test;
const typed = ref("");
const going = computed(() => left.value.length);
const goes = computed(() => Math.max(1, ...rows.value.map((row) => row.cells.length)));

// A number is typed wherever the typing is: all of it goes into its field.
const numberField = useTemplateRef<HTMLInputElement>("numberField");
useEventListener(window, "keydown", (event) => {
  const target = event.target as HTMLElement;
  if (event.ctrlKey || event.metaKey || event.altKey || !/^\d$/.test(event.key)) return;
  if (target.closest("input,select,textarea,.v-overlay")) return;
  numberField.value?.focus({ preventScroll: true });
});

function byNumber() {
  const text = typed.value.trim();
  typed.value = problem.value = "";
  const row = rows.value.find((one) => String(one.child.number) === text);
  if (text && !row) {
    problem.value = `There is no child ${text}: type a number from 1 to ${rows.value.length}.`;
    typed.value = text;
  } else props.tapping.tap(row?.child.pupil_id ?? null);
}
</script>

<template>
  <div v-if="board" class="stack">
    <div class="line">
      <v-btn v-if="state.started === null" color="primary" size="x-large" @click="tapping.start">
        Start everybody
      </v-btn>
      <template v-else>
        <!-- Its place is there from the start: nothing moves when the most is reached. -->
        <v-btn
          v-if="holds && board.cap_typed"
          :class="{ none: !capped || !going }"
          :disabled="!capped || !going"
          color="primary"
          size="x-large"
          @click="tapping.allReached"
        >
          All {{ going }} left reached {{ board.cap_typed }} s
        </v-btn>
        <v-btn size="x-large" variant="outlined" :disabled="!presses.length" @click="tapping.undo">
          Undo
        </v-btn>
        <v-btn size="x-large" variant="outlined" @click="tapping.tap(null)">Somebody</v-btn>
        <v-btn v-if="!holds" size="x-large" variant="outlined" @click="emit('ask', 'end')">
          All in
        </v-btn>
        <v-btn size="x-large" variant="text" @click="emit('ask', 'again')">Start again</v-btn>
      </template>
    </div>
    <div class="line">
      <label v-if="!holds" class="line">
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
      <label v-if="goes > 1" class="line">
        Try
        <select v-model.number="go" class="field">
          <option v-for="n in goes" :key="n" :value="n">{{ n }}</option>
        </select>
      </label>
      <form v-if="state.started !== null" class="line" @submit.prevent="byNumber">
        <label class="line">
          Number
          <input
            ref="numberField"
            v-model="typed"
            class="field num"
            inputmode="numeric"
            autocomplete="off"
            aria-label="Number of the child who is in"
          />
        </label>
        <span class="quiet"><kbd>Enter</kbd> takes the time; empty for somebody</span>
      </form>
      <strong class="figure left" data-testid="going">{{ going }} going</strong>
    </div>
  </div>
</template>

<style scoped src="./tap.css"></style>
