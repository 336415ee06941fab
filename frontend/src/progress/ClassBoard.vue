<script setup lang="ts">
/** A class over all its tests in one picture; never in order of score. It is the class's page. */
import { t } from "../messages/progress";
import { computed, ref } from "vue";
import ClassTabs from "../parts/ClassTabs.vue";
import LoadState from "../parts/LoadState.vue";
import { shortDay } from "../parts/words";
import BoardGrid from "./BoardGrid.vue";
import BoardNotes from "./BoardNotes.vue";
import BoardTest from "./BoardTest.vue";
import { useBoard } from "./useBoard";

const props = defineProps<{ classId: string }>();
const { wish, page, board, terms, families, houses, groups, columns, children } = useBoard(
  props.classId,
);
const chosen = ref("");
const test = computed(() => board.value?.tests.find((one) => one.test_id === chosen.value));
function choose(testId: string) {
  chosen.value = chosen.value === testId ? "" : testId;
}
</script>

<template>
  <main id="main" tabindex="-1" class="page class-board">
    <LoadState :query="page">
      <template v-if="board">
        <div class="head">
          <h1>{{ board.class_name }}</h1>
          <ClassTabs :class-id="classId" />
          <v-btn color="primary" :to="{ name: 'new-lesson', query: { class: classId } }">
            {{ t("newLesson") }}
          </v-btn>
        </div>
        <div class="line no-print filters">
          <select v-model="wish.days" class="field" :aria-label="t('period')">
            <option value="">{{ t("thisTerm") }}</option>
            <option v-for="one in terms" :key="one.starts" :value="one.starts">
              {{ one.name }}, {{ shortDay(one.starts) }}
            </option>
            <option value="year">{{ t("twelveMonths") }}</option>
          </select>
          <select v-model="wish.beside" class="field" :aria-label="t('compareWith')">
            <option value="">{{ t("compareWithThePreviousScore") }}</option>
            <option v-for="one in terms" :key="one.starts" :value="one.starts">
              {{ t("compareWithTermDay", { term: one.name, day: shortDay(one.starts) }) }}
            </option>
          </select>
          <select v-model="wish.family" class="field" :aria-label="t('testsShown')">
            <option value="">{{ t("allTests") }}</option>
            <option v-for="[family, words] in families" :key="family" :value="family">
              {{ words }}
            </option>
          </select>
          <select v-if="houses.length" v-model="wish.house" class="field" :aria-label="t('house')">
            <option value="">{{ t("allHouses") }}</option>
            <option v-for="one in houses" :key="one">{{ one }}</option>
          </select>
          <select v-if="groups.length" v-model="wish.group" class="field" :aria-label="t('group')">
            <option value="">{{ t("allGroups") }}</option>
            <option v-for="one in groups" :key="one">{{ one }}</option>
          </select>
          <select v-model="wish.order" class="field" :aria-label="t('order')">
            <option value="list">{{ t("classOrder") }}</option>
            <option value="name">{{ t("byName") }}</option>
            <option value="look">{{ t("whoNeedsACloserLook2") }}</option>
          </select>
          <label class="line tick">
            <input v-model="wish.hidden" type="checkbox" /> {{ t("hideNames") }}
          </label>
          <span class="quiet">{{
            t("sinceToUntil", { since: shortDay(board.since), until: shortDay(board.until) })
          }}</span>
        </div>
        <BoardTest v-if="test" :key="test.test_id" :test="test" @done="chosen = ''" />
        <p v-if="!board.tests.length" class="board">
          <i18n-t keypath="progress.nothingWasTestedInThisPeriod" scope="global"
            ><template #lesson
              ><RouterLink :to="{ name: 'new-lesson', query: { class: classId } }">{{
                t("newLesson")
              }}</RouterLink></template
            ><template #class
              ><RouterLink :to="{ name: 'class-list', params: { classId } }">{{
                t("childrenAndLessons")
              }}</RouterLink></template
            ></i18n-t
          >
        </p>
        <template v-else>
          <div
            class="board scroll"
            tabindex="0"
            role="region"
            :aria-label="t('theClassInAllItsTests')"
          >
            <BoardGrid
              :columns="columns"
              :children="children"
              :hidden="wish.hidden"
              :chosen="chosen"
              @test="choose"
            />
          </div>
          <p class="quiet">
            {{ t("nChildBetterAndLowerMean", children.length) }}
          </p>
          <BoardNotes v-if="!wish.hidden" :children="children" />
        </template>
      </template>
    </LoadState>
  </main>
</template>

<style scoped>
.class-board {
  padding-top: 8px;
  max-width: 1400px;
}
.class-board > :deep(.head) {
  align-items: center;
}
h1 {
  font-size: 2rem;
}
.filters {
  margin: 2px 0 6px;
  gap: 4px 8px;
}
.filters .field {
  min-height: 32px;
  font-size: 0.95rem;
  padding: 0 6px;
  max-width: 190px;
}
.tick input {
  width: 22px;
  height: 22px;
}
.scroll {
  padding: 2px 10px 6px;
}
</style>
