<script setup lang="ts">
/**
 * Up to six children counted at once by tapping large areas. Nothing is a score before it is kept;
 * who was not tapped stays blank.
 */
import { t } from "../../../messages/sheet";
import { useEventListener } from "@vueuse/core";
import { ref } from "vue";
import Confirm from "../../../parts/form/Confirm.vue";
import LoadState from "../../../parts/LoadState.vue";
import FormsLine from "../../parts/FormsLine.vue";
import InZone from "../../parts/InZone.vue";
import MessageLine from "../../message/MessageLine.vue";
import { useHold } from "../../useHold";
import type { HallClock } from "../../types";
import type { Activity } from "../../useTest";
import TallyArea from "./TallyArea.vue";
import { useTally } from "./useTally";

const props = defineProps<{ activity: Activity; clock?: HallClock | null }>();
const tallying = useTally(
  () => props.activity,
  () => props.clock ?? null,
);
const { test, state, problem, saved, areas, isOn, again } = tallying;
const { query, board, rows, sheet, done } = test;
const hold = useHold(sheet);
const asking = ref(false);

function askKeep() {
  if (again.value.length) asking.value = true;
  else tallying.keep();
}
useEventListener("keydown", (event) => {
  const target = event.target as HTMLElement;
  if (event.ctrlKey || event.metaKey || event.altKey || event.repeat) return;
  if (target.closest("input,select,textarea,.v-overlay")) return;
  const place = /^(?:Digit|Numpad)([1-6])$/.exec(event.code)?.[1];
  const pupilId = state.value.pupils[Number(place) - 1];
  if (!place || !pupilId) return;
  event.preventDefault();
  if (event.shiftKey) tallying.takeBack(pupilId);
  else tallying.add(pupilId);
});
</script>

<template>
  <LoadState :query="query">
    <InZone v-if="board" name="tools">
      <button
        type="button"
        class="tool keep"
        :disabled="!state.taps.length || isOn"
        @click="askKeep"
      >
        {{ t("saveThese") }}
      </button>
      <span class="figure count">{{ done }} / {{ rows.length }}</span>
      <FormsLine :test="test" />
    </InZone>
    <MessageLine
      :sheet="sheet"
      :hold="hold"
      :accepted="t('aTapOrAKeyFrom')"
      :problem="problem"
      :cannot-undo="!tallying.canUndo.value"
      @undo="tallying.undo"
      @right="hold.right"
      @later="hold.postpone"
      @decide="hold.decide"
    >
      <strong v-if="saved" role="status">{{ saved }}</strong>
    </MessageLine>
    <section v-if="board" class="tally">
      <p v-if="!areas.length" class="board">
        {{ t("everyoneHasAScoreChooseA") }}
      </p>
      <ol class="areas">
        <TallyArea
          v-for="(row, place) in areas"
          :key="row.child.pupil_id"
          :tallying="tallying"
          :row="row"
          :place="place"
        />
      </ol>
      <Confirm
        v-model="asking"
        :title="t('someChildrenAlreadyHaveAScore')"
        :words="
          t('theNewCountsReplaceTheScores', {
            names: again.map((row) => row.child.name).join(', '),
          })
        "
        :yes="t('saveNewScores')"
        @yes="((asking = false), tallying.keep())"
      />
    </section>
  </LoadState>
</template>

<style scoped src="../capture.css"></style>
<style scoped>
.tally {
  display: grid;
  height: 100%;
}
.areas {
  list-style: none;
  padding: 0;
  display: grid;
  grid-template-columns: repeat(3, minmax(0, 1fr));
  grid-auto-rows: minmax(0, 1fr);
  gap: var(--gap-8);
  min-height: 0;
}
.keep {
  font-weight: 700;
  border-color: var(--line);
}
@media (max-width: 700px) {
  .areas {
    grid-template-columns: repeat(2, minmax(0, 1fr));
  }
}
</style>
