<script setup lang="ts">
/** What a lesson showed and what waits in it; then it is closed. */
import { t } from "../messages/progress";
import { useMutation, useQuery, useQueryClient } from "@tanstack/vue-query";
import { computed } from "vue";
import { useRoute } from "vue-router";
import { answer, client } from "../api/client";
import { useConductor } from "../lessons/hall/clock/useConductor";
import { useLesson } from "../lessons/useLesson";
import { useResults } from "../lessons/useResults";
import { ask } from "../parts/form/ask";
import DoneRecord from "../parts/DoneRecord.vue";
import LoadState from "../parts/LoadState.vue";
import { clockTime, shortDay } from "../parts/words";
import { useSync } from "../sync/useSync";
import CheckTest from "./CheckTest.vue";
import LessonSummary from "./LessonSummary.vue";

const { lesson } = useLesson();
const lessonId = lesson.value?.id ?? "";
const params = { path: { lesson_id: lessonId } };
const route = useRoute();
const sync = useSync();
const { state } = useConductor();
const queries = useQueryClient();
const { query, page } = useResults(lessonId);
/** What children entered themselves, beside what was scored here. */
const goes = useQuery({
  queryKey: ["waiting-goes", lessonId],
  queryFn: () => answer(client.GET("/api/lessons/{lesson_id}/goes", { params })),
  staleTime: 0,
});
const tests = computed(() => page.value?.tests ?? []);
/** The one that was chosen, else the first in which something waits. */
const test = computed(
  () =>
    tests.value.find((one) => one.activity_id === route.query.activity) ??
    tests.value.find((one) => one.odd) ??
    tests.value.find((one) => one.missing) ??
    tests.value[0],
);

/** What is not done yet, in words; nothing where all is. */
function left(): string[] {
  const found = page.value;
  const unsent = sync.entries.value;
  return [
    found?.missing ? t("nScoreIsMissing", found.missing) : "",
    found?.odd ? t("nScoreNeedsACheck", found.odd) : "",
    unsent ? t("nScoreIsStillOnThis", unsent) : "",
  ].filter(Boolean);
}
const closing = useMutation({
  async mutationFn(closed: boolean) {
    if (!closed) return answer(client.POST("/api/lessons/{lesson_id}/reopen", { params }));
    await query.refetch();
    const open = left();
    const sure =
      !open.length ||
      (await ask({
        title: t("closeTheLessonWithThisOpen"),
        words: t("whatYouCanOpenTheLesson", { what: open.join("; ") }),
        yes: t("closeAnyway"),
      }));
    return sure ? answer(client.POST("/api/lessons/{lesson_id}/close", { params })) : null;
  },
  async onSuccess(reopened) {
    if (!reopened) return;
    queries.setQueryData(["lesson", reopened.id], reopened);
    await queries.invalidateQueries({ queryKey: ["today"] });
  },
});
</script>

<template>
  <LoadState :query="query">
    <div v-if="page && lesson" class="results">
      <section class="sum">
        <p>
          <i18n-t keypath="progress.strongMissing" scope="global"
            ><template #strong
              ><b class="figure" data-testid="missing">{{ page.missing }}</b></template
            ></i18n-t
          >
        </p>
        <p>
          <i18n-t keypath="progress.nToCheck" scope="global"
            ><template #n
              ><b class="figure" data-testid="odd">{{ page.odd }}</b></template
            ></i18n-t
          >
        </p>
        <p v-if="page.pulses">
          <i18n-t keypath="progress.nPulses" :plural="page.pulses" scope="global"
            ><template #n
              ><b class="figure">{{ page.pulses }}</b></template
            ></i18n-t
          >
        </p>
        <p v-for="one in page.pulse_blanks" :key="one.moment" class="quiet blanks">
          {{
            t("noPulseMomentNames", {
              moment: one.moment.toLowerCase(),
              names: one.names.join(", "),
            })
          }}
        </p>
        <p v-for="one in goes.data.value" :key="one.week_id">
          <RouterLink :to="{ name: 'goes', params: { weekId: one.week_id } }">{{
            t("nGoWaits", one.waiting)
          }}</RouterLink>
        </p>
        <span class="space" />
        <v-btn
          v-if="test && !test.private"
          variant="outlined"
          :href="`/api/activities/${test.activity_id}/scores.csv`"
          download
        >
          {{ t("scoresCsv") }}
        </v-btn>
        <v-btn
          v-if="!lesson.closed_at"
          color="primary"
          size="large"
          :loading="closing.isPending.value"
          @click="closing.mutate(true)"
        >
          {{ t("closeLesson") }}
        </v-btn>
        <v-btn v-else variant="outlined" size="large" @click="closing.mutate(false)">
          {{ t("reopen") }}
        </v-btn>
      </section>
      <p v-if="closing.error.value" role="alert" class="problem">
        {{ closing.error.value.message }}
      </p>
      <p v-if="lesson.closed_at" role="status" class="board done">
        {{
          t("closedByWhoOnDayAt", {
            who: lesson.closed_by,
            day: shortDay(lesson.closed_at),
            time: clockTime(lesson.closed_at),
          })
        }}
      </p>
      <p v-if="sync.entries.value" role="alert" class="board">
        <i18n-t keypath="progress.nScoreIsStillOnThis2" scope="global" :plural="sync.entries.value"
          ><template #n>{{ sync.entries.value }}</template
          ><template #link
            ><RouterLink :to="{ name: 'hall' }">{{ t("lookAtThem") }}</RouterLink></template
          ></i18n-t
        >
      </p>
      <p v-if="!tests.length" class="board">{{ t("thisLessonHasNoTests") }}</p>
      <nav v-if="tests.length > 1" class="tests" :aria-label="t('tests')">
        <RouterLink
          v-for="one in tests"
          :key="one.activity_id"
          class="tag"
          :class="{ strong: one.activity_id === test?.activity_id }"
          :to="{ name: 'results', query: { activity: one.activity_id } }"
        >
          {{ one.test }}
          <span class="quiet">
            {{ t("nIn", { n: one.recorded })
            }}<template v-if="one.missing">{{ t("nMissing", { n: one.missing }) }}</template
            ><template v-if="one.odd">{{ t("nToCheck2", { n: one.odd }) }}</template>
          </span>
        </RouterLink>
      </nav>
      <LessonSummary :lesson-id="lessonId" :class-id="lesson.class_id" />
      <CheckTest v-if="test" :key="test.activity_id" :activity-id="test.activity_id" />
      <DoneRecord
        :lesson-id="lessonId"
        :revision="state?.revision ?? null"
        :done="state?.done?.length ?? 0"
      />
    </div>
  </LoadState>
</template>

<style scoped>
.results {
  display: grid;
  gap: var(--gap-16);
}
.sum {
  display: flex;
  flex-wrap: wrap;
  align-items: end;
  gap: var(--gap-12) var(--gap-32);
}
.sum b {
  font-size: var(--type-40);
  margin-right: var(--gap-4);
}
.space {
  flex: 1;
}
.tests {
  display: flex;
  flex-wrap: wrap;
  gap: var(--gap-8);
}
.tests a {
  display: grid;
  min-height: 48px;
  padding: var(--gap-8) var(--gap-12);
  text-decoration: none;
}
.done {
  border-left: var(--bar) solid var(--line);
}
</style>
