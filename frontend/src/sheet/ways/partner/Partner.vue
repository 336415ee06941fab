<script setup lang="ts">
/** The partner says the score. */
import { t } from "../../../messages/sheet";
import LoadState from "../../../parts/LoadState.vue";
import StateMark from "../../../parts/StateMark.vue";
import InZone from "../../parts/InZone.vue";
import Pad from "../../pad/Pad.vue";
import TypedLine from "../../message/TypedLine.vue";
import { LITERAL } from "../../useEntry";
import type { Activity } from "../../useTest";
import { usePartner } from "./usePartner";

const props = defineProps<{ activity: Activity }>();
const partner = usePartner(() => props.activity);
const { test, turns, row, sayer, cursor, entry } = partner;
const { query, board, rows, sheet, done, variants } = test;
</script>

<template>
  <LoadState :query="query">
    <InZone v-if="board" name="tools">
      <span class="figure count">{{ done }} / {{ rows.length }}</span>
      <span class="space" />
      <button
        type="button"
        class="tool"
        :disabled="cursor.rested.value || cursor.row.value === 0"
        @pointerdown.prevent
        @click="cursor.go(cursor.row.value - 1)"
      >
        {{ t("back") }}
      </button>
      <button
        type="button"
        class="tool"
        :disabled="cursor.rested.value || cursor.row.value >= turns.length - 1"
        @pointerdown.prevent
        @click="partner.onPad('save')"
      >
        {{ t("next") }}
      </button>
    </InZone>
    <TypedLine
      :sheet="sheet"
      :typing="partner"
      :accepted="board?.accepted"
      :where="row?.child.name ?? ''"
    />
    <section v-if="board" class="partner">
      <div v-if="row" class="ask board">
        <h2 class="figure question" data-testid="question">
          <i18n-t keypath="sheet.sayerHowManyDidChildDo" scope="global"
            ><template #sayer>{{ sayer(row)?.child.name ?? t("you") }}</template
            ><template #child
              ><em>{{ row.child.name }}</em></template
            ></i18n-t
          >
        </h2>
        <p class="line">
          <label class="labelled">
            {{ t("scoreOfName", { name: row.child.name }) }}
            <input
              :ref="partner.field"
              v-model="entry.typed.value"
              data-cell
              class="field said"
              inputmode="none"
              v-bind="LITERAL"
              :aria-invalid="entry.problem.value !== null"
              :placeholder="row.shown || '–'"
              @keydown="partner.onKey"
            />
          </label>
          <StateMark :state="row.state" />
          <span v-if="board.waves > 1" class="quiet">{{ t("waveWave", { wave: row.wave }) }}</span>
          <v-select
            :model-value="sayer(row)?.child.pupil_id"
            :label="t('saidBy')"
            :items="
              (rows.filter((each) => each.child !== row?.child) ?? []).map((one) => ({
                value: one.child.pupil_id,
                title: one.child.name,
              }))
            "
            @update:model-value="partner.say(row, $event)"
          />
        </p>
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
            {{
              done === rows.length
                ? t("everyoneHasSaidTheirs")
                : t("nScoreIsMissing", rows.length - done)
            }}
          </strong>
        </p>
        <div class="line">
          <v-btn size="large" variant="outlined" @click="cursor.first()">{{
            t("goToMissingScores")
          }}</v-btn>
        </div>
      </div>
      <ol class="turns" :aria-label="t('whoIsAsked')">
        <li
          v-for="(one, index) in turns"
          :key="one.child.pupil_id"
          class="child"
          :class="{ open: one.state === 'refused', active: one === row }"
          @click="partner.press(index, 0, $event)"
        >
          <span>{{ one.child.name }}</span>
          <b class="figure">{{ one.shown || "–" }}</b>
          <StateMark :state="one.state" />
        </li>
      </ol>
    </section>
    <InZone v-if="row && board" name="pad">
      <Pad
        :name="row.child.name"
        :typed="entry.typed.value"
        :kind="board.kind"
        :of="board.of ?? null"
        :reasons="board.reasons"
        :variant="board.variants.length > 1 ? variants.nameOf('', row.variant) : ''"
        :wave="null"
        try-words=""
        @press="partner.onPad"
        @type="partner.onPadText"
      />
    </InZone>
  </LoadState>
</template>

<style scoped src="./partner.css"></style>
<style scoped src="../capture.css"></style>
