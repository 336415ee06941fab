<script setup lang="ts">
/** One child's pulses, moment by moment, and what the series says. */
import { t } from "../../../messages/sheet";
import { computed } from "vue";
import StateMark from "../../../parts/StateMark.vue";
import type { PulseChild } from "../../sources/pulse";
import { LITERAL } from "../../useEntry";
import type { Pulsing } from "./usePulse";

const props = defineProps<{
  pulsing: Pulsing;
  lessonId: string;
  child: PulseChild;
  row: number;
  pad: boolean;
}>();
const { moments, cursor, entry, cellOf } = props.pulsing;
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
      :class="{
        here: column === cursor.column.value,
        open: cells[column]?.state === 'refused',
      }"
      @click="pulsing.press(row, column, $event)"
    >
      <input
        v-if="here === column"
        :ref="pulsing.field"
        v-model="entry.typed.value"
        data-cell
        class="field beats"
        :inputmode="pad ? 'none' : 'numeric'"
        v-bind="LITERAL"
        :aria-label="t('beatsOfChildMoment', { child: child.name, moment: one.words })"
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
      <button
        v-for="one in flags(child)"
        :key="one.reading.id"
        type="button"
        class="flag"
        :title="one.words"
        @click="pulsing.hold.ask(questionOf(child, one.reading))"
      >
        {{ one.reading.shown }}?
      </button>
      {{ child.words.join(" · ") }}
    </td>
  </tr>
</template>

<style scoped src="./pulse.css"></style>
