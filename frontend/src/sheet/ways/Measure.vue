<script setup lang="ts">
/** One child after the other at the tape. A fall is jumped again. */
import { useTemplateRef } from "vue";
import Lane from "../../parts/Lane.vue";
import LoadState from "../../parts/LoadState.vue";
import StateMark from "../../parts/StateMark.vue";
import ConditionsLine from "../parts/ConditionsLine.vue";
import FormsLine from "../parts/FormsLine.vue";
import SheetNotes from "../parts/SheetNotes.vue";
import type { Activity } from "../useTest";
import { useMeasure } from "./useMeasure";

const props = defineProps<{ activity: Activity }>();
const standingField = useTemplateRef<HTMLInputElement>("standingField");
const tryFields = useTemplateRef<HTMLInputElement[]>("tryFields");
const measuring = useMeasure(() => props.activity, {
  standing: () => standingField.value?.focus(),
  tryField: (slot) => tryFields.value?.[slot - 1]?.focus(),
});
const { test, active, row, twoMarks, mark, typed, problem, go, save } = measuring;
const { query, board, rows, sheet, done } = test;
const { canTakeBack } = sheet;
</script>

<template>
  <LoadState :query="query">
    <section v-if="board && row" class="stack">
      <div class="line">
        <ConditionsLine :board="board" :child="null" :own="{}" />
        <FormsLine :test="test" />
      </div>
      <div class="board one">
        <div class="line">
          <v-btn size="x-large" variant="outlined" :disabled="active === 0" @click="go(active - 1)">
            Back
          </v-btn>
          <h2 class="figure name" data-testid="child">{{ row.child.name }}</h2>
          <span v-if="row.child.medical_note" class="note">✚ {{ row.child.medical_note }}</span>
          <span class="space" />
          <span class="figure sum">{{ done }} / {{ rows.length }}</span>
          <v-btn size="x-large" variant="outlined" :disabled="!canTakeBack" @click="measuring.undo">
            Undo
          </v-btn>
          <v-btn
            size="x-large"
            color="primary"
            :disabled="active >= rows.length - 1"
            @click="go(active + 1)"
          >
            Next child
          </v-btn>
        </div>
        <div class="fields">
          <label v-if="twoMarks" class="labelled">
            Standing mark, {{ board.unit }}
            <input
              ref="standingField"
              v-model="mark"
              class="field large"
              inputmode="decimal"
              autocomplete="off"
              @keydown.enter.prevent="measuring.keepMark"
            />
          </label>
          <label v-for="(cell, at) in row.cells" :key="at" class="labelled">
            {{ twoMarks ? `Mark at the top, try ${at + 1}` : `Try ${at + 1}, ${board.unit}` }}
            <input
              ref="tryFields"
              v-model="typed[at + 1]"
              class="field large"
              inputmode="decimal"
              autocomplete="off"
              :placeholder="cell.shown || '–'"
              @keydown.enter.prevent="save(at + 1)"
            />
            <span class="line">
              <StateMark v-if="cell.state !== 'empty'" :state="cell.state" />
              <b class="figure shown">{{ cell.shown }}</b>
              <v-btn size="large" variant="text" @click="save(at + 1, 'v')">Fell</v-btn>
              <v-btn size="large" variant="outlined" @click="save(at + 1)">Keep</v-btn>
            </span>
          </label>
          <p class="best">
            <span class="quiet">{{ board.merge }} of {{ board.tries }}</span>
            <b class="figure" data-testid="best">{{ row.shown || "–" }}</b>
          </p>
        </div>
        <Lane :lane="row.child.lane" :label="`Lane of ${row.child.name}`" named />
        <p>{{ row.child.words.join(" · ") }}</p>
      </div>
      <SheetNotes :sheet="sheet">
        <p v-if="problem" role="alert" class="problem">{{ row.child.name }}: {{ problem }}</p>
      </SheetNotes>
      <nav class="line" aria-label="Children">
        <button
          v-for="(one, index) in rows"
          :key="one.child.pupil_id"
          type="button"
          class="tag child"
          :aria-current="index === active"
          @click="go(index)"
        >
          {{ one.child.name }} <b v-if="one.shown" class="figure">{{ one.shown }}</b>
        </button>
      </nav>
    </section>
  </LoadState>
</template>

<style scoped src="./measure.css"></style>
