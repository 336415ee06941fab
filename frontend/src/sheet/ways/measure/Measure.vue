<script setup lang="ts">
/** One child after the other at the tape. A fall is jumped again. */
import { t } from "../../../messages/sheet";
import { useTemplateRef } from "vue";
import Lane from "../../../parts/Lane.vue";
import LoadState from "../../../parts/LoadState.vue";
import StateMark from "../../../parts/StateMark.vue";
import ConditionsLine from "../../parts/ConditionsLine.vue";
import FormsLine from "../../parts/FormsLine.vue";
import InZone from "../../parts/InZone.vue";
import Pad from "../../pad/Pad.vue";
import TypedLine from "../../message/TypedLine.vue";
import { LITERAL } from "../../useEntry";
import { usePad } from "../../pad/usePad";
import type { Activity } from "../../useTest";
import { useMeasure } from "./useMeasure";

const props = defineProps<{ activity: Activity }>();
const standingField = useTemplateRef<HTMLInputElement>("standingField");
const measuring = useMeasure(
  () => props.activity,
  () => standingField.value,
);
const { test, row, twoMarks, mark, markProblem, wantsMark, atMark } = measuring;
const { cursor, entry, go } = measuring;
const { query, board, rows, sheet, done } = test;
const { pad } = usePad();
const labelOf = (at: number) =>
  twoMarks.value
    ? t("markAtTheTopTryN", { n: at + 1 })
    : t("tryNUnit", { n: at + 1, unit: board.value?.unit });
/** The same for who does not see whose it is. */
const fullLabelOf = (at: number, child: string) => t("ofChild", { what: labelOf(at), child });
const isHere = (at: number) => !cursor.rested.value && cursor.column.value === at;
</script>

<template>
  <LoadState :query="query">
    <InZone v-if="board" name="tools">
      <span class="figure count">{{ done }} / {{ rows.length }}</span>
      <ConditionsLine :board="board" :child="null" :own="{}" />
      <FormsLine :test="test" />
      <span class="space" />
      <button
        type="button"
        class="tool"
        :disabled="cursor.row.value === 0"
        @pointerdown.prevent
        @click="go(cursor.row.value - 1, true)"
      >
        {{ t("back") }}
      </button>
      <button
        type="button"
        class="tool"
        :disabled="cursor.row.value >= rows.length - 1"
        @pointerdown.prevent
        @click="go(cursor.row.value + 1, true)"
      >
        {{ t("nextChild") }}
      </button>
    </InZone>
    <TypedLine
      :sheet="sheet"
      :typing="measuring"
      :accepted="board?.accepted"
      :where="row?.child.name ?? ''"
      :problem="markProblem && row ? `${row.child.name}: ${markProblem}` : ''"
    />
    <section v-if="board && row" class="measure">
      <div class="board one">
        <h2 class="figure name" data-testid="child">
          {{ row.child.name }}
          <span v-if="row.child.medical_note" class="note" :title="row.child.medical_note">
            ✚ {{ row.child.medical_note }}
          </span>
        </h2>
        <div class="fields">
          <label v-if="twoMarks" class="labelled">
            {{ t("standingReachUnit", { unit: board.unit }) }}
            <input
              ref="standingField"
              v-model="mark"
              class="field large"
              :inputmode="pad ? 'none' : 'decimal'"
              v-bind="LITERAL"
              :data-first="wantsMark || atMark || null"
              @focus="atMark = true"
              @blur="atMark = false"
              @keydown.enter.prevent="measuring.keepMark"
            />
          </label>
          <div v-for="(cell, at) in row.cells" :key="at" class="try">
            <div class="labelled">
              <span aria-hidden="true">{{ labelOf(at) }}</span>
              <input
                v-if="isHere(at)"
                :ref="measuring.field"
                v-model="entry.typed.value"
                data-cell
                class="field large"
                :inputmode="pad ? 'none' : 'decimal'"
                v-bind="LITERAL"
                :aria-label="fullLabelOf(at, row.child.name)"
                :aria-invalid="entry.problem.value !== null"
                :placeholder="cell.shown || '–'"
                @keydown="measuring.onKey"
              />
              <button
                v-else
                type="button"
                class="field large"
                :aria-label="`${fullLabelOf(at, row.child.name)}: ${cell.shown || '–'}`"
                @pointerdown.prevent
                @click="measuring.press(cursor.row.value, at, $event)"
              >
                {{ cell.shown || "–" }}
              </button>
            </div>
            <span class="line">
              <StateMark :state="cell.state" />
              <button
                type="button"
                class="tool"
                :title="t('doesNotCountSteppedOverDropped')"
                @pointerdown.prevent
                @click="measuring.voided(at)"
              >
                {{ t("void") }}
              </button>
              <button
                type="button"
                class="tool"
                :disabled="!isHere(at)"
                @pointerdown.prevent
                @click="measuring.onPad('save')"
              >
                {{ t("save") }}
              </button>
            </span>
          </div>
          <p class="best">
            <span class="quiet">{{
              t("mergeOfTries", { merge: board.merge, tries: board.tries })
            }}</span>
            <b class="figure" data-testid="best">{{ row.shown || "–" }}</b>
          </p>
        </div>
        <Lane :lane="row.child.lane" :label="t('laneOfChild', { child: row.child.name })" named />
        <p class="words">{{ row.child.words.join(" · ") }}</p>
        <p
          v-if="cursor.rested.value"
          :ref="measuring.field"
          data-cell
          tabindex="0"
          data-testid="all-in"
          @keydown="measuring.onKey"
        >
          <i18n-t keypath="sheet.stateTapAnyChildToGo" scope="global"
            ><template #state
              ><strong class="figure">
                {{ done === rows.length ? t("allIn") : t("nScoreIsMissing", rows.length - done) }}
              </strong></template
            ></i18n-t
          >
        </p>
      </div>
      <nav class="everybody" :aria-label="t('children')">
        <button
          v-for="(one, index) in rows"
          :key="one.child.pupil_id"
          type="button"
          class="tool child"
          :class="{ open: one.state === 'refused' }"
          :aria-current="index === cursor.row.value"
          @pointerdown.prevent
          @click="go(index)"
        >
          {{ one.child.name }} <b v-if="one.shown" class="figure">{{ one.shown }}</b>
        </button>
      </nav>
    </section>
    <InZone v-if="pad && board && row && !cursor.rested.value" name="pad">
      <Pad
        :name="row.child.name"
        :typed="atMark ? mark : entry.typed.value"
        :kind="twoMarks ? 'length' : board.kind"
        :of="null"
        :reasons="board.reasons"
        :wave="null"
        try-words=""
        :variant="board.variants.length > 1 ? test.variants.nameOf('', row.variant) : ''"
        @press="measuring.onPad"
        @type="measuring.onPadText"
      />
    </InZone>
  </LoadState>
</template>

<style scoped src="./measure.css"></style>
<style scoped src="../capture.css"></style>
