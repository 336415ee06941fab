<script setup lang="ts">
/** What a helper enters on a phone: a child a row, keys for the thumb below. */
import { t } from "../../../messages/sheet";
import { computed } from "vue";
import StateMark from "../../../parts/StateMark.vue";
import InZone from "../../parts/InZone.vue";
import Pad from "../../pad/Pad.vue";
import TypedLine from "../../message/TypedLine.vue";
import type { HelpedLesson, HelpedTest } from "../../sources/helped";
import { LITERAL } from "../../useEntry";
import { useHelper } from "./useHelper";

const props = defineProps<{
  lesson: HelpedLesson;
  test: HelpedTest;
  /** Whose scores are taken here; null for the whole class. */
  group: string[] | null;
}>();
const helping = useHelper(
  () => props.lesson,
  () => props.test,
  () => props.group,
);
const { sheet, rows, row, cell, cursor, entry, variants, done } = helping;
const instead = computed(() =>
  cell.value?.stands ? t("replacesScore", { score: cell.value.shown }) : "",
);
/** What is to be known before this child begins. */
const before = computed(() => {
  if (!row.value) return props.test.accepted;
  const { child, ask, isCounted } = row.value;
  if (ask) return t("askTheTeacherAbout", { child: child.name });
  return isCounted ? t("alreadyCounted", { child: child.name }) : props.test.accepted;
});
const isActive = (at: number) => !cursor.rested.value && cursor.row.value === at;
</script>

<template>
  <TypedLine
    :sheet="sheet"
    :typing="helping"
    :where="row?.child.name ?? ''"
    :instead="instead"
    :accepted="before"
  />
  <p class="count figure" data-testid="count">{{ done }} / {{ rows.length }}</p>
  <ol class="children">
    <li
      v-for="(one, at) in rows"
      :id="`child-${at}`"
      :key="one.child.pupil_id"
      class="child"
      :class="{ active: isActive(at) }"
      @click="helping.press(at, isActive(at) ? cursor.column.value : 0, $event)"
    >
      <span class="number figure">{{ one.child.number }}</span>
      <span class="name">
        {{ one.child.name }}
        <span v-if="one.ask" class="ask">{{ t("askFirst") }}</span>
        <span v-else-if="one.isCounted && !one.cells.some((each) => each.stands)" class="quiet">{{
          t("countedBySomebody")
        }}</span>
      </span>
      <span class="cells figure">
        <template v-for="(each, place) in one.cells" :key="place">
          <input
            v-if="isActive(at) && place === cursor.column.value"
            :ref="helping.field"
            v-model="entry.typed.value"
            data-cell
            inputmode="none"
            v-bind="LITERAL"
            :aria-label="
              one.cells.length > 1
                ? t('tryNOfChild', { n: place + 1, child: one.child.name })
                : t('scoreOfName', { name: one.child.name })
            "
            :placeholder="each.shown || '–'"
            @keydown="helping.onKey"
          />
          <button
            v-else
            type="button"
            class="cell"
            tabindex="-1"
            @click.stop="cursor.go(at, place)"
          >
            {{ each.shown || "–" }}
          </button>
        </template>
      </span>
      <StateMark
        :state="one.cells.find((each) => each.job)?.state ?? one.cells[0]?.state ?? 'empty'"
      />
    </li>
  </ol>
  <p
    v-if="cursor.rested.value"
    :ref="helping.field"
    data-cell
    tabindex="0"
    class="board"
    data-testid="all-in"
    @keydown="helping.onKey"
  >
    <strong>{{
      done === rows.length ? t("allIn") : t("nScoreIsMissing", rows.length - done)
    }}</strong>
  </p>
  <InZone v-if="row" name="pad">
    <Pad
      :name="row.child.name"
      :typed="entry.typed.value"
      :kind="test.kind"
      :of="test.of"
      :try-words="row.cells.length > 1 ? t('tryN', { n: cursor.column.value + 1 }) : ''"
      :reasons="test.reasons"
      :variant="test.variants.length > 1 ? variants.nameOf('', row.variant) : ''"
      :wave="null"
      :beside="test.kind === 'count' ? ['+1'] : undefined"
      @press="(key: string) => (key === '+1' ? helping.countOne() : helping.onPad(key))"
      @type="helping.onPadText"
    />
  </InZone>
</template>

<style scoped src="./helper.css"></style>
