<script setup lang="ts">
/** Choose the movement, type what a child has done of it, see total, rung and the pace needed. */
import { t } from "../../../messages/sheet";
import type { Schemas } from "../../../api/client";
import LoadState from "../../../parts/LoadState.vue";
import StateMark from "../../../parts/StateMark.vue";
import { clockShown } from "../../../parts/time/clockShown";
import FormsLine from "../../parts/FormsLine.vue";
import InZone from "../../parts/InZone.vue";
import Pad from "../../pad/Pad.vue";
import OwnClock from "../../parts/OwnClock.vue";
import TypedLine from "../../message/TypedLine.vue";
import { LITERAL } from "../../useEntry";
import { usePad } from "../../pad/usePad";
import type { HallClock } from "../../types";
import type { Activity } from "../../useTest";
import { levelsTyped } from "./total";
import { useTarget } from "./useTarget";

const props = defineProps<{ activity: Activity; clock?: HallClock | null }>();
const target = useTarget(
  () => props.activity,
  () => props.clock ?? null,
);
const { test, query, page, movement, entry, child, children, names, carries } = target;
const { left, cursor, rowOf, partsOf, shownOf, idle, focus } = target;
const { apart, called, toCarry, carryIn } = target;
const { pad, turnPad } = usePad();
/** What a child has done so far, by movement. */
function told(one: Schemas["TargetChild"]): string {
  const { carried, reps } = partsOf(one);
  const done = reps.map((levels, at) => `${levelsTyped(levels)} ${names.value[at] ?? ""}`);
  return [...(carried ? [t("nCarriedIn", { n: carried })] : []), ...done].join(", ");
}
const isHere = (index: number) => !cursor.rested.value && index === cursor.row.value;
/** One less, and what is carried in. */
const KEYS = ["-", "c"];
</script>

<template>
  <LoadState :query="query">
    <InZone v-if="page && !clock" name="own">
      <OwnClock :name="activity.test" going="left" :begun="!idle">
        <p class="figure digits" data-testid="left">{{ clockShown(left) }}</p>
      </OwnClock>
    </InZone>
    <InZone v-if="page && idle" name="main">
      <v-btn color="primary" size="x-large" @click="(target.own.start(), focus())">
        {{ t("startTheClock") }}
      </v-btn>
    </InZone>
    <InZone v-if="page" name="tools">
      <span class="tools" role="group" :aria-label="t('movement')">
        <button
          v-for="(name, place) in names"
          :key="name"
          type="button"
          class="tool move"
          :aria-pressed="place === movement"
          @pointerdown.prevent
          @click="movement = place"
        >
          {{ name }}
        </button>
      </span>
      <button
        v-if="toCarry.length"
        type="button"
        class="tool"
        @pointerdown.prevent
        @click="carryIn"
      >
        {{ t("carryInTheCountsN", { n: toCarry.length }) }}
      </button>
      <span v-if="clock" class="figure count" data-testid="left">{{ clockShown(left) }}</span>
      <FormsLine :test="test" />
      <button
        type="button"
        class="tool"
        :aria-pressed="pad"
        @pointerdown.prevent
        @click="turnPad()"
      >
        {{ t("pad") }}
      </button>
      <span v-if="carries" class="quiet one">
        <i18n-t keypath="sheet.keyCarries40MovementInFrom" scope="global"
          ><template #movement>{{ carries }}</template
          ><template #key><kbd>c40</kbd></template></i18n-t
        ><template v-if="called !== null">{{ t("nWereCalled", { n: called }) }}</template>
      </span>
      <span v-if="apart" class="quiet one" data-testid="levels">
        <i18n-t keypath="sheet.keyEasierUsualAndHarderOnes" scope="global"
          ><template #key><kbd>20e/10/5h</kbd></template></i18n-t
        ><template v-if="page.weights !== '1/1/1'">{{
          t("eachCountsWeights", { weights: page.weights })
        }}</template>
      </span>
    </InZone>
    <TypedLine :sheet="test.sheet" :typing="target" :where="child?.name ?? ''" />
    <section v-if="page && test.board.value" class="target">
      <div class="board sheet">
        <table class="plain middle">
          <thead>
            <tr>
              <th scope="col">{{ t("child") }}</th>
              <th scope="col">{{ t("movementSinceLastTime", { movement: names[movement] }) }}</th>
              <th scope="col">{{ t("total") }}</th>
              <th scope="col">{{ t("rung") }}</th>
              <th scope="col">{{ t("stillNeeded") }}</th>
              <th scope="col">{{ t("atThisPace") }}</th>
            </tr>
          </thead>
          <tbody>
            <tr
              v-for="(one, index) in children"
              :id="`target-${index}`"
              :key="one.pupil_id"
              :class="{ open: rowOf(one)?.state === 'refused' }"
              @click="target.press(index, 0, $event)"
            >
              <th scope="row">{{ one.name }}</th>
              <td>
                <input
                  v-if="isHere(index)"
                  :ref="target.field"
                  v-model="entry.typed.value"
                  data-cell
                  class="field reps"
                  :inputmode="pad ? 'none' : 'text'"
                  v-bind="LITERAL"
                  :aria-label="t('repsOfMovement', { movement: one.name })"
                  :aria-invalid="entry.problem.value !== null"
                  @keydown="target.onKey"
                />
                <span v-else class="quiet told">{{ told(one) }}</span>
              </td>
              <td class="figure total">
                {{ shownOf(one) }}
                <StateMark :state="rowOf(one)?.state ?? 'empty'" />
              </td>
              <td>
                {{ one.rung ?? "–" }}
                <span v-for="words in one.moved_up" :key="words" class="tag up">{{ words }}</span>
              </td>
              <td>
                <template v-if="one.needed">
                  {{ t("neededToNextrung", { needed: one.needed, nextRung: one.next_rung })
                  }}<template v-if="one.a_minute">{{
                    t("nPerMinute", { n: one.a_minute })
                  }}</template>
                </template>
                <template v-else-if="one.rung">{{ t("atTheTop") }}</template>
              </td>
              <td class="figure">{{ one.projected ?? "" }}</td>
            </tr>
          </tbody>
        </table>
        <p
          v-if="cursor.rested.value"
          :ref="target.field"
          data-cell
          tabindex="0"
          class="mt-2"
          @keydown="target.onKey"
        >
          <i18n-t keypath="sheet.endOfTheClassKeyGoes" scope="global"
            ><template #key><kbd>↑</kbd></template></i18n-t
          >
        </p>
      </div>
    </section>
    <InZone v-if="pad && child" name="pad">
      <Pad
        kind="total"
        :beside="KEYS"
        try-words=""
        variant=""
        :name="child.name"
        :typed="entry.typed.value"
        :of="null"
        :reasons="test.board.value?.reasons ?? []"
        :wave="null"
        @press="target.onPad"
        @type="target.onPadText"
      />
    </InZone>
  </LoadState>
</template>

<style scoped src="./target.css"></style>
<style scoped src="../capture.css"></style>
