<script setup lang="ts">
/** A battery as one grid, by keyboard or with a pad. */
import { t } from "../../../messages/sheet";
import { computed } from "vue";
import type { Schemas } from "../../../api/client";
import LoadState from "../../../parts/LoadState.vue";
import { shortDay } from "../../../parts/words";
import WhyButton from "../../../parts/why/WhyButton.vue";
import DrawerButton from "../../parts/DrawerButton.vue";
import Finder from "../../parts/Finder.vue";
import InDrawer from "../../parts/InDrawer.vue";
import InZone from "../../parts/InZone.vue";
import KeysHelp from "../../pad/KeysHelp.vue";
import Pad from "../../pad/Pad.vue";
import TypedLine from "../../message/TypedLine.vue";
import VariantBar from "../../parts/VariantBar.vue";
import { usePad } from "../../pad/usePad";
import GridTable from "./GridTable.vue";
import { useGrid } from "./useGrid";

const props = defineProps<{ lesson: Schemas["LessonPage"] }>();
const battery = useGrid(() => props.lesson);
const { query, grid, sheet, children, tests, variants, test, child, entry } = battery;
const { along, cursor, finder, comparedWith, filled, doer, focus } = battery;
const { pad, turnPad } = usePad();
const here = computed(() => child.value?.cells[cursor.column.value] ?? null);
const who = computed(() => (child.value ? doer(cursor.row.value, cursor.column.value) : null));
const where = computed(() =>
  test.value && child.value ? `${child.value.name}, ${test.value.test}` : "",
);
const total = computed(() => children.value.length * tests.value.length);
</script>

<template>
  <LoadState :query="query">
    <InZone v-if="grid" name="tools">
      <span class="figure count" data-testid="filled">{{ filled }} / {{ total }}</span>
      <span class="tools" role="group" :aria-label="t('afterAScoreGo')">
        <button
          v-for="way in [false, true]"
          :key="String(way)"
          type="button"
          class="tool"
          :aria-pressed="along === way"
          @pointerdown.prevent
          @click="along = way"
        >
          {{ way ? t("alongTheRow") : t("downTheColumn") }}
        </button>
      </span>
      <v-select
        v-if="grid.sittings.length"
        :model-value="comparedWith ?? ''"
        class="compared"
        :prefix="t('compareWith')"
        :aria-label="t('compareWith')"
        :items="[
          { value: '', title: t('theTimeBefore') },
          ...grid.sittings.map((one) => ({ value: one.id, title: shortDay(one.on) })),
        ]"
        @update:model-value="comparedWith = $event || undefined"
      />
      <span class="space" />
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
    </InZone>
    <InZone v-if="test && child" name="settings">
      <VariantBar
        :variants="test.variants"
        :name="child.name"
        :code="who ? variants.of(who) : ''"
        :would-change="(code) => variants.wouldChange(battery.doers.value, code)"
        @choose="(code) => who && variants.choose(who, code)"
        @for-all="(code) => (variants.chooseForAll(battery.doers.value, code), focus())"
      />
    </InZone>
    <InDrawer what="keys"><KeysHelp v-if="test" :board="test" /></InDrawer>
    <TypedLine :sheet="sheet" :typing="battery" :where="where">
      <p v-if="where && !entry.typed.value" class="now">
        <strong>{{ where }}</strong>{{ " " }}
        <span class="quiet">
          {{
            here?.score
              ? [here.rung, here.change].filter(Boolean).join(" · ")
              : here?.then
                ? t("earlierScore", { score: here.then })
                : test?.accepted
          }}
        </span>
        <WhyButton
          v-if="here?.score && here.score.value !== null && !test?.private"
          :attempt-id="here.score.id"
          :label="where"
        />
      </p>
      <Finder v-model="finder.letters.value" :matches="finder.matches.value" @pick="battery.pick" />
    </TypedLine>
    <section v-if="grid" class="capture">
      <GridTable :grid="battery" :pad="pad">
        <template #test="{ test: one }"
          ><slot name="test" :test="one">{{ one.test }}</slot></template
        >
      </GridTable>
      <p
        v-if="cursor.rested.value"
        :ref="battery.field"
        data-cell
        tabindex="0"
        class="board rest"
        data-testid="all-in"
        @keydown="battery.onKey"
      >
        <i18n-t keypath="sheet.nothingToEnterHereStateKey" scope="global"
          ><template #state
            ><strong class="figure">{{
              filled === total ? t("allIn") : t("endOfTheSheet")
            }}</strong></template
          ><template #key><kbd>↑</kbd></template></i18n-t
        >
      </p>
    </section>
    <InZone v-if="pad && test && child" name="pad">
      <Pad
        :name="child.name"
        :typed="entry.typed.value"
        :kind="test.kind"
        :of="test.of"
        try-words=""
        :reasons="test.reasons"
        :variant="test.variants.length > 1 && who ? variants.nameOf(who.at, variants.of(who)) : ''"
        :wave="null"
        @press="battery.onPad"
        @type="battery.onPadText"
      />
    </InZone>
  </LoadState>
</template>

<style scoped src="../capture.css"></style>
<style scoped>
.compared {
  flex: none;
  flex-wrap: nowrap;
}
.now {
  margin: 0;
  flex: 1 1 300px;
  max-height: 2.4em;
  overflow: hidden;
  line-height: 1.2;
}
</style>
