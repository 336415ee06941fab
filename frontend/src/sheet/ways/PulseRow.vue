<script setup lang="ts">
/** One child's pulses, moment by moment, and what the series says. */
import { computed } from "vue";
import StateMark from "../../parts/StateMark.vue";
import CellProblem from "../parts/CellProblem.vue";
import KeptWords from "../parts/KeptWords.vue";
import type { PulseChild } from "../sources/pulse";
import type { Pulsing } from "./usePulse";

const props = defineProps<{
  pulsing: Pulsing;
  lessonId: string;
  child: PulseChild;
  row: number;
}>();
const { moments, cursor, entry, cellOf, sheet, cell } = props.pulsing;
/** The column that is typed in here. */
const here = computed(() =>
  !cursor.rested.value && cursor.row.value === props.row ? cursor.column.value : null,
);
const cells = computed(() => moments.value.map((one) => cellOf(props.child, one.position)));
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
  <tr>
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
        v-if="here === column"
        :ref="pulsing.field"
        data-cell
        v-model="entry.typed.value"
        class="field beats"
        inputmode="numeric"
        autocomplete="off"
        :aria-label="`Beats of ${child.name}, ${one.words}`"
        :aria-invalid="entry.problem.value !== null"
        :placeholder="cells[column]?.shown || '–'"
        @keydown="pulsing.onKey"
      />
      <template v-else>{{ cells[column]?.shown || "–" }}</template>
      <StateMark
        v-if="cells[column] && cells[column].state !== 'empty'"
        :state="cells[column].state"
      />
    </td>
    <td class="words">
      <template v-if="here !== null">
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
</template>

<style scoped src="./pulse.css"></style>
