<script setup lang="ts">
/** Laps, try and number: what is pressed beside the clock. */
import { t } from "../../../messages/sheet";
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
    problem.value = t("childGoesInWaveWave", { child: row.child.name, wave: row.wave });
    typed.value = text;
  } else if (text && !row) {
    problem.value = t("thereIsNoChildTypedType", { typed: text, n: rows.value.length });
    typed.value = text;
  } else props.tapping.tap(row?.child.pupil_id ?? null);
}
</script>

<template>
  <InZone v-if="board" name="tools">
    <WaveChoice :waves="waves" :wave="wave" @choose="tapping.toWave" />
    <template v-if="state.started !== null">
      <button type="button" class="tool" @click="tapping.tap(null)">{{ t("unknownChild") }}</button>
      <form class="line number" @submit.prevent="byNumber">
        <label class="line">
          {{ t("number") }}
          <input
            ref="numberField"
            v-model="typed"
            class="field num"
            inputmode="numeric"
            v-bind="LITERAL"
            :aria-label="t('numberOfTheChildWhoHas')"
          />
        </label>
        <span class="quiet hint"
          ><i18n-t keypath="sheet.keyTakesTheTimeLeaveEmpty" scope="global"
            ><template #key
              ><kbd>{{ t("enter") }}</kbd></template
            ></i18n-t
          ></span
        >
      </form>
    </template>
    <label v-if="!holds" class="line number">
      {{ t("laps") }}
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
    <v-select
      v-model="why"
      class="number wave"
      :aria-label="t('whatTheNextTapRecords')"
      :prefix="t('nextTap')"
      :items="[
        { value: '', title: t('aTime') },
        ...board.reasons.map((one) => ({ value: one.key, title: one.words })),
      ]"
    />
    <v-select
      v-if="goes > 1"
      v-model="go"
      class="number"
      :prefix="t('try')"
      :aria-label="t('try')"
      :items="Array.from({ length: goes }, (_, at) => at + 1)"
    />
    <span class="space" />
    <button v-if="state.started !== null" type="button" class="tool" @click="$emit('again')">
      {{ t("startAgain") }}
    </button>
  </InZone>
</template>

<style scoped src="./tap.css"></style>
