<script setup lang="ts">
/** The cells of a battery, with each test's sums below. */
import { LITERAL } from "../useEntry";
import type { Schemas } from "../../api/client";
import StateMark from "../../parts/StateMark.vue";
import type { Grid } from "./useGrid";

const props = defineProps<{ grid: Grid; pad: boolean }>();
const { children, tests, cursor, entry, cellAt } = props.grid;
const MARKS: Record<string, [string, string]> = {
  better: ["▲", "better"],
  reached_the_top: ["▲", "better"],
  lower: ["▽", "lower than then"],
  moved_up: ["⇧", "moved up a variant"],
};
/** Growing is neither better nor worse: height and weight carry no mark. */
function markOf(cell: Schemas["GridCell"], column: number) {
  const mark = MARKS[cell.verdict];
  return mark && !(tests.value[column]?.private && cell.verdict !== "moved_up") ? mark : null;
}
const isHere = (row: number, column: number) =>
  !cursor.rested.value && row === cursor.row.value && column === cursor.column.value;
</script>

<template>
  <div class="board scroll sheet">
    <table class="plain grid">
      <thead>
        <tr>
          <th scope="col" class="name">Child</th>
          <th
            v-for="(one, column) in tests"
            :key="one.activity_id"
            scope="col"
            :class="{ here: column === cursor.column.value }"
          >
            <slot name="test" :test="one">{{ one.test }}</slot>
            <span class="quiet count">{{ one.recorded }} / {{ children.length }}</span>
          </th>
        </tr>
      </thead>
      <tbody>
        <tr
          v-for="(one, row) in children"
          :key="one.pupil_id"
          :class="{ here: row === cursor.row.value }"
        >
          <th scope="row" class="name">{{ one.name }}</th>
          <td
            v-for="(each, column) in one.cells"
            :key="each.activity_id"
            class="cell"
            :class="{ here: column === cursor.column.value }"
            :title="[each.care?.words, each.rung, each.change].filter(Boolean).join(', ')"
            @click="grid.press(row, column, $event)"
          >
            <input
              v-if="isHere(row, column)"
              :ref="grid.field"
              data-cell
              v-model="entry.typed.value"
              class="field figure"
              :inputmode="pad ? 'none' : 'text'"
              v-bind="LITERAL"
              :aria-label="`${tests[column]?.test} of ${one.name}`"
              :aria-invalid="entry.problem.value !== null"
              aria-describedby="kept"
              :placeholder="cellAt(row, column)?.shown || '–'"
              @keydown="grid.onKey"
            />
            <template v-else>
              <span class="figure value">{{ cellAt(row, column)?.shown || "–" }}</span>
              <span v-if="each.care && !each.care.allowed" :aria-label="each.care.words">⊘</span>
              <span
                v-if="markOf(each, column)"
                class="move"
                :aria-label="markOf(each, column)?.[1]"
              >
                {{ markOf(each, column)?.[0] }}
              </span>
            </template>
            <StateMark
              v-if="['saving', 'waiting', 'refused'].includes(cellAt(row, column)?.state ?? '')"
              :state="cellAt(row, column)!.state"
            />
          </td>
        </tr>
      </tbody>
      <tfoot>
        <tr>
          <th scope="row" class="name">Middle now (then)</th>
          <td v-for="one in tests" :key="one.activity_id">
            <b class="figure value">{{ one.median ?? "–" }}</b>
            <span v-if="one.median_then" class="quiet"> ({{ one.median_then }})</span>
            <p v-if="one.middle_half" class="quiet">{{ one.middle_half }}</p>
          </td>
        </tr>
        <tr>
          <th scope="row" class="name">Change</th>
          <td v-for="one in tests" :key="one.activity_id" class="change">
            <template v-if="one.mean_change && !one.private">
              ▲ {{ one.better }} · {{ one.steady }} steady · ▽ {{ one.lower }};
              {{ one.mean_change }}
            </template>
            <p v-if="one.chance && !one.private" class="quiet">an arrow: {{ one.chance }}</p>
            <p v-if="one.misfit" class="quiet">{{ one.misfit }}</p>
          </td>
        </tr>
      </tfoot>
    </table>
    <p class="quiet">
      ▲ better than day-to-day variation explains, ▽ lower, no mark steady or new.
    </p>
  </div>
</template>

<style scoped src="./grid.css"></style>
