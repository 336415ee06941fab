<script setup lang="ts">
/** Scores typed down the class, or along the tries of one child. */
import { t } from "../../../messages/sheet";
import { computed, ref } from "vue";
import type { Schemas } from "../../../api/client";
import LoadState from "../../../parts/LoadState.vue";
import { useFrame } from "../../frame";
import ConditionsLine from "../../parts/ConditionsLine.vue";
import DrawerButton from "../../parts/DrawerButton.vue";
import Finder from "../../parts/Finder.vue";
import InDrawer from "../../parts/InDrawer.vue";
import InZone from "../../parts/InZone.vue";
import KeysHelp from "../../pad/KeysHelp.vue";
import MeasureUnit from "../../parts/MeasureUnit.vue";
import OwnAims from "../../parts/OwnAims.vue";
import Pad from "../../pad/Pad.vue";
import RivalLine from "../../parts/RivalLine.vue";
import TypedLine from "../../message/TypedLine.vue";
import VariantBar from "../../parts/VariantBar.vue";
import { useAims } from "../../sources/aims";
import { usePad } from "../../pad/usePad";
import type { Activity, Row } from "../../useTest";
import ListRow from "./ListRow.vue";
import { useList } from "./useList";

const props = defineProps<{ activity: Activity }>();
/** More than so many would be a table of their own: by age and sex, say. */
const MOST_LADDERS = 3;
const { drawer } = useFrame();
const list = useList(() => props.activity);
const { test, along, cell, cursor, row, entry, finder, focus } = list;
const { query, board, rows, sheet, variants, many, own } = test;
const { pad, turnPad } = usePad();
const aims = useAims(props.activity.id, () => board.value?.private === false);
/** The ladders of the class, each once, with the form of the movement it is for. */
const ladders = computed(() => {
  const found = new Map<string, { form: string; rungs: Schemas["LaneRung"][] }>();
  for (const { child } of rows.value) {
    const { rungs, variant } = child.lane;
    if (rungs.length) {
      found.set(JSON.stringify(rungs), { form: variants.nameOf("", variant), rungs });
    }
  }
  return found.size <= MOST_LADDERS ? [...found.values()] : [];
});
const ownOf = computed(() => (row.value ? (own.get(row.value.child.pupil_id) ?? {}) : {}));
/** What an entry would take the place of. */
const instead = computed(() => {
  const there = cell.value;
  return there?.stands && !there.refusal ? t("replacesScore", { score: there.shown }) : "";
});
/** Why the child under the cursor is kept from the test. */
const keptFrom = computed(() => {
  const { care = null, name = "" } = row.value?.child ?? {};
  return care && !care.allowed ? `⊘ ${name} ${care.words}` : "";
});
const measured = ref<Row | null>(null);
function measure(one: Row) {
  measured.value = one;
  drawer.value = "unit";
}
</script>

<template>
  <LoadState :query="query">
    <InZone name="tools">
      <template v-if="board">
        <span class="figure count" data-testid="count">
          {{ test.done.value }} / {{ rows.length }}
        </span>
        <span v-if="many" class="tools" role="group" :aria-label="t('tries')">
          <button
            v-for="way in [false, true]"
            :key="String(way)"
            type="button"
            class="tool"
            :aria-pressed="along === way"
            @pointerdown.prevent
            @click="along = way"
          >
            {{ way ? t("allTriesOfOneChild") : t("downTheColumn") }}
          </button>
          <span class="quiet">{{
            t("mergeOfNCounts", { merge: board.merge, n: board.tries })
          }}</span>
        </span>
        <span class="space" />
        <DrawerButton v-if="!board.private" what="aims">{{ t("ownTargets") }}</DrawerButton>
        <button type="button" class="tool" @click="finder.letters.value = ''">
          <i18n-t keypath="sheet.keyFind" scope="global"
            ><template #key><kbd>/</kbd></template></i18n-t
          >
        </button>
        <button
          type="button"
          class="tool"
          :aria-pressed="pad"
          @pointerdown.prevent
          @click="turnPad()"
        >
          {{ t("pad") }}
        </button>
        <DrawerButton what="keys"
          ><i18n-t keypath="sheet.keyKeys" scope="global"
            ><template #key><kbd>?</kbd></template></i18n-t
          ></DrawerButton
        >
      </template>
    </InZone>
    <InZone v-if="board" name="settings">
      <VariantBar
        :variants="board.variants"
        :name="row?.child.name ?? null"
        :code="row?.variant ?? ''"
        :would-change="(code) => variants.wouldChange(test.doers.value, code)"
        @choose="(code) => row && variants.choose(test.doer(row), code)"
        @for-all="(code) => (variants.chooseForAll(test.doers.value, code), focus())"
      />
      <ConditionsLine
        :board="board"
        :child="row?.child.name ?? null"
        :own="ownOf"
        @own="(held) => row && own.set(row.child.pupil_id, held)"
      />
    </InZone>
    <InDrawer what="brief">
      <section v-if="ladders.length" class="board">
        <h2>{{ t("rungs") }}</h2>
        <p v-for="one in ladders" :key="one.form" class="rungs" data-testid="rungs">
          <b v-if="one.form">{{ one.form }}</b>
          <span v-for="rung in one.rungs" :key="rung.name">{{ rung.name }} {{ rung.shown }}</span>
        </p>
      </section>
    </InDrawer>
    <InDrawer what="aims"><OwnAims :aims="aims" /></InDrawer>
    <InDrawer what="keys">
      <KeysHelp v-if="board" :board="board" :tries="board.tries" :waves="board.waves" />
    </InDrawer>
    <InDrawer what="unit">
      <MeasureUnit
        v-if="measured"
        :key="measured.child.pupil_id"
        :pupil-id="measured.child.pupil_id"
        :name="measured.child.name"
        :typed="measured.child.score?.typed ?? ''"
        :activity-id="activity.id"
        @done="((drawer = null), focus())"
      />
    </InDrawer>
    <TypedLine
      :sheet="sheet"
      :typing="list"
      :where="row?.child.name ?? ''"
      :instead="instead"
      :accepted="keptFrom || board?.accepted"
    >
      <button
        v-if="row && cell?.stands && !cell.refusal && !entry.typed.value"
        type="button"
        class="tool"
        @pointerdown.prevent
        @click="list.anotherGo(row)"
      >
        {{ t("saveAsAnotherGo") }}
      </button>
      <Finder v-model="finder.letters.value" :matches="finder.matches.value" @pick="list.pick" />
    </TypedLine>
    <section v-if="board" class="capture" :class="{ 'with-pad': pad }">
      <ol class="children">
        <ListRow
          v-for="(one, index) in rows"
          :id="`child-${index}`"
          :key="one.child.pupil_id"
          :list="list"
          :row="one"
          :index="index"
          :pad="pad"
          :aim="aims.of(one.child.pupil_id)"
          @measure="measure(one)"
        />
      </ol>
      <RivalLine :activity-id="activity.id" />
      <p
        v-if="cursor.rested.value"
        :ref="list.field"
        data-cell
        tabindex="0"
        class="board rest"
        data-testid="all-in"
        @keydown="list.onKey"
      >
        <i18n-t keypath="sheet.stateKeyGoesBackToThe" scope="global"
          ><template #state
            ><strong class="figure">
              {{
                test.done.value === rows.length
                  ? t("allIn")
                  : t("nScoreIsMissing", rows.length - test.done.value)
              }}
            </strong></template
          ><template #key><kbd>↑</kbd></template></i18n-t
        >
      </p>
      <slot name="after" />
    </section>
    <InZone v-if="pad && row && board" name="pad">
      <Pad
        :name="row.child.name"
        :typed="entry.typed.value"
        :kind="board.kind"
        :of="board.of"
        :try-words="many ? t('tryN', { n: cursor.column.value + 1 }) : ''"
        :reasons="board.reasons"
        :variant="board.variants.length > 1 ? variants.nameOf('', row.variant) : ''"
        :wave="board.waves > 1 ? row.wave : null"
        @press="list.onPad"
        @type="list.onPadText"
      />
    </InZone>
  </LoadState>
</template>

<style scoped src="../capture.css"></style>
