<script setup lang="ts">
/** Every child's pulses, moment by moment, and what the series says. */
import StateMark from "../../parts/StateMark.vue";
import CellProblem from "../parts/CellProblem.vue";
import KeptWords from "../parts/KeptWords.vue";
import type { PulseChild } from "../sources/pulse";
import type { Pulsing } from "./usePulse";

const props = defineProps<{ pulsing: Pulsing; lessonId: string }>();
const { children, moments, cursor, entry, cellOf, sheet, cell } = props.pulsing;
const isHere = (row: number, column: number) =>
  !cursor.rested.value && row === cursor.row.value && column === cursor.column.value;
function flags(child: PulseChild) {
  return child.readings.flatMap((one) =>
    one.flags.length
      ? [{ reading: one, words: one.flags.map((flag) => flag.words).join(" ") }]
      : [],
  );
}
function questionOf(child: PulseChild, reading: PulseChild["readings"][number]) {
  const place = { pupilId: child.pupil_id, at: props.lessonId, slot: reading.position };
  return { place, shown: reading.shown, flags: reading.flags, entryId: reading.id };
}
</script>

<template>
  <div class="board scroll">
    <table class="plain pulses">
      <thead>
        <tr>
          <th scope="col" class="name">Child</th>
          <th v-for="(one, column) in moments" :key="one.position" scope="col">
            <button
              type="button"
              class="moment"
              :aria-pressed="column === cursor.column.value"
              @click="pulsing.choose(column)"
            >
              {{ one.words }}
            </button>
          </th>
          <th scope="col">What it says</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="(child, row) in children" :id="`pulse-${row}`" :key="child.pupil_id">
          <th scope="row" class="name">
            {{ child.name }}
            <span v-if="child.medical_note" class="note" :title="child.medical_note">✚</span>
          </th>
          <td
            v-for="(one, column) in moments"
            :key="one.position"
            class="figure cell"
            :class="{ here: column === cursor.column.value }"
            @click="pulsing.press(row, column, $event)"
          >
            <input
              v-if="isHere(row, column)"
              :ref="pulsing.field"
              data-cell
              v-model="entry.typed.value"
              class="field beats"
              inputmode="numeric"
              autocomplete="off"
              :aria-label="`Beats of ${child.name}, ${one.words}`"
              :aria-invalid="entry.problem.value !== null"
              :placeholder="cellOf(child, one.position).shown || '–'"
              @keydown="pulsing.onKey"
            />
            <template v-else>{{ cellOf(child, one.position).shown || "–" }}</template>
            <StateMark
              v-if="cellOf(child, one.position).state !== 'empty'"
              :state="cellOf(child, one.position).state"
            />
          </td>
          <td class="words">
            <template v-if="row === cursor.row.value && !cursor.rested.value">
              <KeptWords :entry="entry" />
              <p v-if="entry.problem.value" role="alert" class="problem">
                {{ entry.problem.value.message }} {{ entry.problem.value.accepted }}
              </p>
              <CellProblem
                v-else-if="cell?.refusal"
                role="alert"
                class="problem"
                :sheet="sheet"
                :cell="cell"
                @done="cursor.next()"
              />
            </template>
            <p v-for="one in flags(child)" :key="one.reading.id" class="flag">
              <strong>{{ one.reading.shown }}?</strong> {{ one.words }}
              <v-btn
                size="small"
                color="primary"
                @click.stop="sheet.settle(questionOf(child, one.reading))"
              >
                It is right
              </v-btn>
              <v-btn
                size="small"
                variant="outlined"
                @click.stop="pulsing.goTo(questionOf(child, one.reading).place)"
              >
                Correct it
              </v-btn>
            </p>
            {{ child.words.join(" · ") }}
          </td>
        </tr>
      </tbody>
    </table>
  </div>
</template>

<style scoped src="./pulse.css"></style>
