<script setup lang="ts">
/** One child's row of a battery: a cell a test. */
import { t } from "../../../messages/sheet";
import { computed } from "vue";
import type { Schemas } from "../../../api/client";
import StateMark from "../../../parts/StateMark.vue";
import { LITERAL } from "../../useEntry";
import type { Grid } from "./useGrid";

const props = defineProps<{
  grid: Grid;
  child: Schemas["GridChild"];
  row: number;
  pad: boolean;
}>();
const { tests, cursor, entry, cellAt } = props.grid;
const UNSENT = ["saving", "waiting", "refused"];
const MARKS: Record<string, [string, string]> = {
  better: ["▲", "better"],
  reached_the_top: ["▲", "better"],
  lower: ["▽", t("lowerThanThen")],
  moved_up: ["⇧", t("movedUpAForm")],
};
/** Growing is neither better nor worse: height and weight carry no mark. */
function markOf(cell: Schemas["GridCell"], column: number) {
  const mark = MARKS[cell.verdict];
  return mark && !(tests.value[column]?.private && cell.verdict !== "moved_up") ? mark : null;
}
const active = computed(() => cursor.row.value === props.row);
/** The column that is typed in here. */
const here = computed(() => (active.value && !cursor.rested.value ? cursor.column.value : null));
const cells = computed(() => props.child.cells.map((_, column) => cellAt(props.row, column)));
</script>

<template>
  <tr :class="{ here: active }">
    <th scope="row" class="name">{{ child.name }}</th>
    <td
      v-for="(each, column) in child.cells"
      :key="each.activity_id"
      class="cell"
      :class="{
        here: column === cursor.column.value,
        open: cells[column]?.state === 'refused',
      }"
      :title="[each.care?.words, each.rung, each.change].filter(Boolean).join(', ')"
      @click="grid.press(row, column, $event)"
    >
      <input
        v-if="here === column"
        :ref="grid.field"
        v-model="entry.typed.value"
        data-cell
        class="field figure"
        :inputmode="pad ? 'none' : 'text'"
        v-bind="LITERAL"
        :aria-label="t('testOfName', { test: tests[column]?.test, name: child.name })"
        :aria-invalid="entry.problem.value !== null"
        :placeholder="cells[column]?.shown || '–'"
        @keydown="grid.onKey"
      />
      <template v-else>
        <span class="figure value">{{ cells[column]?.shown || "–" }}</span>
        <span v-if="each.care && !each.care.allowed" :aria-label="each.care.words">⊘</span>
        <span v-if="markOf(each, column)" class="move" :aria-label="markOf(each, column)?.[1]">
          {{ markOf(each, column)?.[0] }}
        </span>
      </template>
      <StateMark v-if="UNSENT.includes(cells[column]?.state ?? '')" :state="cells[column]!.state" />
    </td>
  </tr>
</template>

<style scoped src="./grid.css"></style>
