<script setup lang="ts">
/** The cells of a battery, with each test's sums below. */
import { t } from "../../../messages/sheet";
import GridRow from "./GridRow.vue";
import type { Grid } from "./useGrid";

const props = defineProps<{ grid: Grid; pad: boolean }>();
const { children, tests, cursor } = props.grid;
</script>

<template>
  <div class="board sheet">
    <table class="plain grid" :style="{ minWidth: `${180 + tests.length * 116}px` }">
      <thead>
        <tr>
          <th scope="col" class="name">{{ t("child") }}</th>
          <th
            v-for="(one, column) in tests"
            :key="one.activity_id"
            scope="col"
            :class="{ here: column === cursor.column.value }"
          >
            <span class="test" :title="one.test">
              <slot name="test" :test="one">{{ one.test }}</slot>
            </span>
            <span class="quiet count">{{ one.recorded }} / {{ children.length }}</span>
          </th>
        </tr>
      </thead>
      <tbody>
        <GridRow
          v-for="(one, row) in children"
          :key="one.pupil_id"
          :grid="grid"
          :child="one"
          :row="row"
          :pad="pad"
        />
      </tbody>
      <tfoot>
        <tr>
          <th scope="row" class="name">{{ t("medianNowThen") }}</th>
          <td v-for="one in tests" :key="one.activity_id">
            <b class="figure value">{{ one.median ?? "–" }}</b>
            <span v-if="one.median_then" class="quiet"> ({{ one.median_then }})</span>
            <p v-if="one.middle_half" class="quiet">{{ one.middle_half }}</p>
          </td>
        </tr>
        <tr>
          <th scope="row" class="name">{{ t("edit") }}</th>
          <td v-for="one in tests" :key="one.activity_id" class="change">
            <template v-if="one.mean_change && !one.private">
              {{
                t("betterSteadySteadyLowerMean", {
                  better: one.better,
                  steady: one.steady,
                  lower: one.lower,
                  mean: one.mean_change,
                })
              }}
            </template>
            <p v-if="one.chance && !one.private" class="quiet">
              {{ t("anArrowN", { n: one.chance }) }}
            </p>
            <p v-if="one.misfit" class="quiet">{{ one.misfit }}</p>
          </td>
        </tr>
      </tfoot>
    </table>
    <p class="quiet">
      {{ t("betterAndLowerMeanMoreThan") }}
    </p>
  </div>
</template>

<style scoped src="./grid.css"></style>
