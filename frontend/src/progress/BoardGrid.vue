<script setup lang="ts">
/** A row a child, a column a test. A score is pressed for why, a test for its summary. */
import { t } from "../messages/progress";
import Why from "../parts/why/Why.vue";
import { computed, ref } from "vue";
import { looks, shapeOf, type BoardCell, type BoardChild } from "./useBoard";
import type { Schemas } from "../api/client";

const props = defineProps<{
  columns: { test: Schemas["BoardTest"]; at: number }[];
  children: BoardChild[];
  hidden: boolean;
  chosen: string;
}>();
defineEmits<{ test: [testId: string] }>();
const opened = ref("");
const key = (child: BoardChild, at: number) => `${child.pupil_id} ${at}`;
const name = (child: BoardChild) =>
  props.hidden ? t("childNumber", { number: child.number }) : child.name;
function press(child: BoardChild, at: number) {
  opened.value = opened.value === key(child, at) ? "" : key(child, at);
}
const openedCell = (child: BoardChild): BoardCell | null => {
  const at = props.columns.find((one) => key(child, one.at) === opened.value)?.at;
  return at === undefined ? null : (child.cells[at] ?? null);
};
/** So many letters the longest score of a test has: signs and ticks stand under each other. */
const letters = computed(
  () =>
    new Map(
      props.columns.map(({ at }) => [
        at,
        Math.max(...props.children.map((one) => one.cells[at]?.shown.length ?? 0)),
      ]),
    ),
);
const wide = computed(() => props.columns.length + 1);
</script>

<template>
  <table class="grid">
    <thead>
      <tr>
        <th scope="col">{{ t("child") }}</th>
        <th v-for="{ test } in columns" :key="test.test_id" scope="col">
          <button
            type="button"
            class="test"
            :aria-expanded="chosen === test.test_id"
            @click="$emit('test', test.test_id)"
          >
            <span
              >{{ test.test
              }}<span v-if="test.misfit" :title="t('doesNotFitThisClass')"> ◦</span></span
            >
          </button>
        </th>
      </tr>
    </thead>
    <tbody>
      <template v-for="child in children" :key="child.pupil_id">
        <tr>
          <th scope="row">
            <RouterLink
              v-if="!hidden"
              :to="{ name: 'pupil', params: { pupilId: child.pupil_id } }"
              >{{ child.name }}</RouterLink
            >
            <span v-else>{{ name(child) }}</span>
            <span v-if="looks(child)" class="look" :title="t('needsACloserLook')"
              >◦<span class="sr-only"> {{ t("needsACloserLook") }}</span></span
            >
          </th>
          <td v-for="{ test, at } in columns" :key="test.test_id">
            <button
              v-if="child.cells[at]?.attempt_id"
              type="button"
              class="cell"
              :aria-expanded="opened === key(child, at)"
              @click="press(child, at)"
            >
              <b class="figure" :style="{ minWidth: `${0.46 * (letters.get(at) ?? 0) + 0.3}em` }"
                >{{ child.cells[at]!.shown }}{{ child.cells[at]!.estimate ? " ~" : "" }}</b
              >
              <span class="shape">
                <template v-if="shapeOf(child.cells[at]!.verdict)">
                  <span aria-hidden="true">{{ shapeOf(child.cells[at]!.verdict)?.[0] }}</span>
                  <span class="sr-only">{{ shapeOf(child.cells[at]!.verdict)?.[1] }}</span>
                </template>
              </span>
              <span v-if="child.cells[at]!.rungs" class="ticks">
                <i
                  v-for="n in child.cells[at]!.rungs"
                  :key="n"
                  :class="{ on: n - 1 <= (child.cells[at]!.rung ?? -1) }"
                  aria-hidden="true"
                ></i>
                <span class="sr-only">{{ child.cells[at]!.rung_name }}</span>
              </span>
            </button>
            <span v-else class="quiet missing" :title="child.cells[at]?.missing">{{
              child.cells[at]?.missing
            }}</span>
          </td>
        </tr>
        <tr v-if="openedCell(child)">
          <td :colspan="wide" class="opened">
            <p v-if="openedCell(child)!.then">
              {{
                t("thenThenNowWords", {
                  then: openedCell(child)!.then,
                  now: openedCell(child)!.shown,
                  words: openedCell(child)!.words,
                })
              }}
            </p>
            <p v-else>{{ openedCell(child)!.words }}</p>
            <Why
              :key="openedCell(child)!.attempt_id!"
              :attempt-id="openedCell(child)!.attempt_id!"
              :nameless="hidden"
            />
          </td>
        </tr>
      </template>
    </tbody>
  </table>
</template>

<style scoped>
.grid {
  border-collapse: collapse;
  width: 100%;
}
.grid thead th {
  position: sticky;
  top: 0;
  z-index: 1;
  background: var(--board);
  text-align: left;
  vertical-align: bottom;
  border-bottom: var(--line-2) solid var(--line);
  padding: 0 var(--gap-8) var(--gap-4) 0;
}
.grid tbody th {
  text-align: left;
  font-weight: 400;
  white-space: nowrap;
}
.grid tbody :is(th, td) {
  border-bottom: var(--line-2) solid var(--rule);
  padding: 0 var(--gap-8) 0 0;
  height: 24px;
}
.test {
  font-weight: 700;
  font-size: var(--type-14);
  line-height: 1.05;
  text-align: left;
  min-height: var(--dense);
  color: var(--line);
  display: flex;
  align-items: end;
}
.test[aria-expanded="true"] {
  text-decoration: underline;
  text-decoration-thickness: 3px;
}
.cell {
  display: flex;
  align-items: center;
  gap: var(--gap-4);
  width: 100%;
  min-height: var(--dense);
  color: var(--ink);
  text-align: left;
  white-space: nowrap;
}
.cell .figure {
  font-size: var(--type-18);
}
.shape {
  min-width: 12px;
  color: var(--line);
}
.ticks {
  display: flex;
  gap: var(--gap-4);
}
.ticks i {
  width: 5px;
  height: 11px;
  border: var(--line-2) solid var(--chalk);
}
.ticks i.on {
  background: var(--line);
  border-color: var(--line);
}
.missing {
  display: block;
  max-width: 8rem;
  overflow: hidden;
  text-overflow: ellipsis;
  font-size: var(--type-14);
  white-space: nowrap;
}
.opened {
  padding: var(--gap-8) var(--gap-12) var(--gap-12) !important;
  border-left: var(--bar) solid var(--line);
}
.look {
  color: var(--pennant);
  font-weight: 700;
  margin-left: var(--gap-4);
}
</style>
