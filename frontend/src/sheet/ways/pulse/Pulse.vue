<script setup lang="ts">
/** The pulses of a lesson: counted together, then written down. */
import { t } from "../../../messages/sheet";
import { computed, onBeforeUnmount, ref, watch } from "vue";
import { REASONS } from "../../../api/vocabulary";
import LoadState from "../../../parts/LoadState.vue";
import { vFocus } from "../../../parts/form/focus";
import Belts from "./Belts.vue";
import { useFrame } from "../../frame";
import DrawerButton from "../../parts/DrawerButton.vue";
import InDrawer from "../../parts/InDrawer.vue";
import InZone from "../../parts/InZone.vue";
import Finder from "../../parts/Finder.vue";
import OwnClock from "../../parts/OwnClock.vue";
import Pad from "../../pad/Pad.vue";
import PulseCount from "./PulseCount.vue";
import PulsePlot from "./PulsePlot.vue";
import TypedLine from "../../message/TypedLine.vue";
import PulseTable from "./PulseTable.vue";
import type { PulseChild } from "../../sources/pulse";
import { isIn } from "../../types";
import { usePad } from "../../pad/usePad";
import { usePulse } from "./usePulse";

const props = defineProps<{
  lessonId: string;
  standIns: boolean;
  check?: number | null;
  /** The plan calls this count. */
  called?: boolean;
  live?: boolean;
  /** Seconds since the last effort when the plan's count begins, where its clock knows. */
  rested?: number | null;
}>();
const pulsing = usePulse(props.lessonId);
const { query, page, sheet, children, moments, moment, seconds, waited, formula, done } = pulsing;
const { cursor, entry, finder, focus } = pulsing;
const { pad, turnPad } = usePad();
const { drawer, pulsesIn } = useFrame();
const label = ref("");
const child = computed(() =>
  cursor.rested.value ? null : (children.value[cursor.row.value] ?? null),
);

/** The check that the plan has come to meanwhile. */
const postponed = ref<number | null>(null);
// The pulse check that the plan has come to.
watch(
  [() => props.check, () => moments.value.length],
  ([check, there]) => {
    if (check == null || check >= there) return;
    // Half a pulse is typed: its column stays until that is kept.
    if (entry.typed.value || pulsing.hold.matter.value) postponed.value = check;
    else pulsing.choose(check);
  },
  { immediate: true },
);
watch([entry.typed, pulsing.hold.matter], ([typed, matter]) => {
  if (typed || matter || postponed.value === null) return;
  pulsing.choose(postponed.value);
  postponed.value = null;
});
watch(
  () => props.rested,
  (seconds) => (waited.value = seconds ?? null),
  { immediate: true },
);
/** Of the check that the plan is at. */
const areIn = computed(() => {
  const one = moments.value[props.check ?? -1];
  const taken = (each: PulseChild) => one !== undefined && isIn(pulsing.cellOf(each, one.position));
  return children.value.length > 0 && children.value.every(taken);
});
watch(areIn, (are) => (pulsesIn.value = are), { immediate: true });
onBeforeUnmount(() => (pulsesIn.value = false));
/** Columns that were begun and have blanks: others than the one that is typed in. */
const blanks = computed(() =>
  moments.value.flatMap((one, at) => {
    const taken = children.value.filter((each) => isIn(pulsing.cellOf(each, one.position))).length;
    const left = children.value.length - taken;
    return taken && left && at !== cursor.column.value ? [{ at, words: one.words, left }] : [];
  }),
);
function add() {
  pulsing.addMoment(label.value.trim());
  drawer.value = null;
  label.value = "";
}
</script>

<template>
  <LoadState :query="query">
    <InZone v-if="page" name="tools">
      <span class="figure count">{{ done }} / {{ children.length }}</span>
      <label class="line one">
        {{ t("countedFor") }}
        <select v-model.number="seconds" class="field" @change="focus">
          <option v-for="each in page.seconds" :key="each" :value="each">
            {{ each === 60 ? t("n60SOrBeatsPerMinute") : `${each} s` }}
          </option>
        </select>
      </label>
      <span class="quiet one">{{ t("oneBeatIsNPerMinute", { n: 60 / seconds }) }}</span>
      <v-text-field
        v-if="moment?.moment === 'recovery'"
        v-model.number="waited"
        class="num"
        type="number"
        min="0"
        placeholder="?"
        :prefix="t('after')"
        :suffix="t('sOfRest')"
        :aria-label="t('secondsOfRestBeforeTheCount')"
      />
      <button
        v-if="blanks[0]"
        type="button"
        class="tool"
        :title="blanks.map((one) => `${one.left} ${one.words.toLowerCase()}`).join(', ')"
        @pointerdown.prevent
        @click="pulsing.choose(blanks[0].at)"
      >
        {{ t("nMissingAtOtherMoments", { n: blanks.reduce((sum, one) => sum + one.left, 0) }) }}
      </button>
      <span class="space" />
      <button
        type="button"
        class="tool"
        :aria-pressed="pad"
        @pointerdown.prevent
        @click="turnPad()"
      >
        {{ t("pad") }}
      </button>
      <DrawerButton v-if="standIns" what="forms">{{ t("belts") }}</DrawerButton>
      <DrawerButton what="conditions">{{ t("addAPulseCount") }}</DrawerButton>
    </InZone>
    <InZone v-if="!called && !live" name="own">
      <OwnClock :name="t('pulses')" :going="moment?.words ?? ''" begun />
    </InZone>
    <InZone v-if="!called" :name="live ? 'tools' : 'main'">
      <PulseCount :seconds="seconds" @done="pulsing.choose(cursor.column.value)" />
    </InZone>
    <InDrawer what="conditions">
      <form class="board stack" @submit.prevent="add">
        <label class="labelled">
          {{ t("after2") }}
          <input v-model="label" v-focus class="field" :placeholder="t('starJumps')" />
        </label>
        <v-btn type="submit" color="primary">{{ t("add") }}</v-btn>
      </form>
    </InDrawer>
    <InDrawer v-if="standIns" what="forms">
      <Belts
        :lesson-id="lessonId"
        :children="children"
        :moment="moment?.moment ?? 'rest'"
        @take="pulsing.takeBelts"
      />
    </InDrawer>
    <TypedLine
      :sheet="sheet"
      :typing="pulsing"
      :where="child && moment ? `${child.name}, ${moment.words}` : ''"
    >
      <Finder v-model="finder.letters.value" :matches="finder.matches.value" @pick="pulsing.pick" />
    </TypedLine>
    <section v-if="page" class="stack">
      <PulseTable :pulsing="pulsing" :lesson-id="lessonId" :pad="pad" />
      <p
        v-if="cursor.rested.value"
        :ref="pulsing.field"
        data-cell
        tabindex="0"
        class="board rest"
        data-testid="all-in"
        @keydown="pulsing.onKey"
      >
        <i18n-t keypath="sheet.stateKeyGoesBackOrTap" scope="global"
          ><template #state
            ><strong class="figure">{{
              moment ? `${moment.words}: ${done}` : ""
            }}</strong></template
          ><template #key><kbd>↑</kbd></template></i18n-t
        >
      </p>
      <PulsePlot :columns="moments" :most="page.most" />
      <p class="board care">
        {{ page.caution }}
        <v-select
          v-model="formula"
          class="mt-2"
          :label="t('estimatedMaximum')"
          :items="[
            { value: 'tanaka', title: t('n20807AgeTanaka2001') },
            { value: '220', title: t('n220AgeCommonPractice') },
          ]"
        />
      </p>
    </section>
    <InZone v-if="pad && child" name="pad">
      <Pad
        kind="pulse"
        try-words=""
        variant=""
        :name="child.name"
        :typed="entry.typed.value"
        :of="null"
        :reasons="[...REASONS]"
        :wave="null"
        @press="pulsing.onPad"
        @type="pulsing.onPadText"
      />
    </InZone>
  </LoadState>
</template>

<style scoped src="../capture.css"></style>
<style scoped>
.one {
  flex: none;
  flex-wrap: nowrap;
}
.num {
  width: 84px;
}
.care {
  border-left: var(--bar) solid var(--pennant);
}
</style>
