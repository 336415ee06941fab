<script setup lang="ts">
/** A class over all its tests in one picture; never in order of score. It is the class's page. */
import PageHead from "../parts/PageHead.vue";
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
    <PageHead :title="board?.class_name ?? t('class')"
      ><template #beside><ClassTabs :class-id="classId" /></template>
      <v-btn color="primary" :to="{ name: 'new-lesson', query: { class: classId } }">
        {{ t("newLesson") }}
      </v-btn>
    </PageHead>
    <LoadState :query="page">
      <template v-if="board">
        <div class="line no-print filters">
          <v-select
            v-model="wish.days"
            :aria-label="t('period')"
            :items="[
              { value: '', title: t('thisTerm') },
              ...terms.map((one) => ({
                value: one.starts,
                title: `${one.name}, ${shortDay(one.starts)}`,
              })),
              { value: 'year', title: t('twelveMonths') },
            ]"
          />
          <v-select
            v-model="wish.beside"
            class="beside"
            :aria-label="t('compareWith')"
            :items="[
              { value: '', title: t('compareWithThePreviousScore') },
              ...terms.map((one) => ({
                value: one.starts,
                title: t('compareWithTermDay', { term: one.name, day: shortDay(one.starts) }),
              })),
            ]"
          />
          <v-select
            v-model="wish.family"
            :aria-label="t('testsShown')"
            :items="[
              { value: '', title: t('allTests') },
              ...[...families].map(([family, words]) => ({ value: family, title: words })),
            ]"
          />
          <v-select
            v-if="houses.length"
            v-model="wish.house"
            :aria-label="t('house')"
            :items="[
              { value: '', title: t('allHouses') },
              ...houses.map((one) => ({ value: one, title: one })),
            ]"
          />
          <v-select
            v-if="groups.length"
            v-model="wish.group"
            :aria-label="t('group')"
            :items="[
              { value: '', title: t('allGroups') },
              ...groups.map((one) => ({ value: one, title: one })),
            ]"
          />
          <v-select
            v-model="wish.order"
            :aria-label="t('order')"
            :items="[
              { value: 'list', title: t('classOrder') },
              { value: 'name', title: t('byName') },
              { value: 'look', title: t('whoNeedsACloserLook2') },
            ]"
          />
          <v-checkbox v-model="wish.hidden" :label="t('hideNames')" />
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
  padding-top: var(--gap-8);
  max-width: 1400px;
}
.class-board > :deep(.head) {
  align-items: center;
}
h1 {
  font-size: var(--type-28);
}
.filters {
  margin-bottom: var(--gap-8);
  gap: var(--gap-4) var(--gap-8);
}
.filters > .v-input:not(.v-checkbox) {
  flex: 1 1 7rem;
}
.filters > .v-input.beside {
  flex: 2 1 15rem;
}
.scroll {
  padding: var(--gap-4) var(--gap-8) var(--gap-8);
}
</style>
