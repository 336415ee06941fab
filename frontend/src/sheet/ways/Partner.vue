<script setup lang="ts">
/** The partner says the score. */
import LoadState from "../../parts/LoadState.vue";
import StateMark from "../../parts/StateMark.vue";
import CellProblem from "../parts/CellProblem.vue";
import KeptWords from "../parts/KeptWords.vue";
import Pad from "../parts/Pad.vue";
import SheetNotes from "../parts/SheetNotes.vue";
import type { Activity } from "../useTest";
import { usePartner } from "./usePartner";

const props = defineProps<{ activity: Activity }>();
const partner = usePartner(() => props.activity);
const { test, turns, row, sayer, cursor, cell, entry } = partner;
const { query, board, rows, sheet, done, variants } = test;
</script>

<template>
  <LoadState :query="query">
    <section v-if="board" class="partner">
      <div v-if="row" class="ask board">
        <p class="line">
          <span class="figure sum">{{ done }} / {{ rows.length }}</span>
          <span v-if="board.waves > 1" class="quiet">wave {{ row.wave }}</span>
          <StateMark v-if="row.state !== 'empty'" :state="row.state" />
        </p>
        <h2 class="figure question" data-testid="question">
          {{ sayer(row)?.child.name ?? "You" }}, how many did <em>{{ row.child.name }}</em> do?
        </h2>
        <label class="line">
          Said by
          <select
            class="field"
            :value="sayer(row)?.child.pupil_id"
            @change="partner.say(row, ($event.target as HTMLSelectElement).value)"
          >
            <option
              v-for="one in rows.filter((each) => each.child !== row?.child)"
              :key="one.child.pupil_id"
              :value="one.child.pupil_id"
            >
              {{ one.child.name }}
            </option>
          </select>
        </label>
        <label class="labelled">
          Score of {{ row.child.name }}
          <input
            :ref="partner.field"
            data-cell
            v-model="entry.typed.value"
            class="field said"
            inputmode="none"
            autocomplete="off"
            aria-describedby="kept"
            :placeholder="row.shown || '–'"
            @keydown="partner.onKey"
          />
        </label>
        <KeptWords :entry="entry" />
        <p v-if="entry.problem.value" role="alert" class="problem">
          {{ entry.problem.value.message }} {{ entry.problem.value.accepted }}
        </p>
        <CellProblem
          v-else-if="cell?.refusal"
          role="alert"
          :sheet="sheet"
          :cell="cell"
          @done="cursor.next()"
        />
        <div class="line">
          <v-btn
            size="large"
            variant="outlined"
            :disabled="cursor.row.value === 0"
            @click="cursor.go(cursor.row.value - 1)"
          >
            Back
          </v-btn>
          <v-btn
            size="large"
            variant="outlined"
            :disabled="cursor.row.value >= turns.length - 1"
            @click="cursor.go(cursor.row.value + 1)"
          >
            Later
          </v-btn>
        </div>
        <SheetNotes :sheet="sheet" @correct="partner.goTo" />
      </div>
      <div
        v-else
        :ref="partner.field"
        data-cell
        tabindex="0"
        class="board ask"
        @keydown="partner.onKey"
      >
        <p>
          <strong class="figure sum">
            {{ done === rows.length ? "All have said" : `${rows.length - done} missing` }}
          </strong>
        </p>
        <div class="line">
          <v-btn size="large" variant="outlined" @click="cursor.first()">To who is missing</v-btn>
          <v-btn size="large" variant="outlined" @click="partner.takeBack">Undo</v-btn>
        </div>
        <SheetNotes :sheet="sheet" @correct="partner.goTo" />
      </div>
      <Pad
        v-if="row"
        :name="row.child.name"
        :typed="entry.typed.value"
        :kind="board.kind"
        :of="board.of ?? null"
        :reasons="board.reasons"
        :variant="board.variants.length > 1 ? variants.nameOf('', row.variant) : ''"
        :wave="null"
        try-words=""
        :said="entry.kept.value"
        @press="partner.onPad"
        @type="entry.typed.value = $event"
      />
    </section>
  </LoadState>
</template>

<style scoped src="./partner.css"></style>
