<script setup lang="ts">
import PageHead from "../parts/PageHead.vue";
import { t } from "../messages/progress";
import { useQuery } from "@tanstack/vue-query";
import { computed } from "vue";
import { answer, client, type Schemas } from "../api/client";
import LoadState from "../parts/LoadState.vue";
import BegunHere from "./BegunHere.vue";
import ReadyForHall from "./ReadyForHall.vue";
import { clockTime, dayWords, moment, shortDay } from "../parts/words";

const page = useQuery({
  queryKey: ["today"],
  queryFn: () => answer(client.GET("/api/today")),
  refetchOnWindowFocus: true,
});
const challenges = useQuery({
  queryKey: ["open-challenges"],
  queryFn: () => answer(client.GET("/api/open-challenges")),
});
const isToday = (one: Schemas["LessonToCome"]) =>
  moment(one.starts_at).toDateString() === moment(page.data.value?.date ?? "").toDateString();
const ofToday = computed(() => page.data.value?.to_come.filter(isToday) ?? []);
const ahead = computed(() => page.data.value?.to_come.filter((one) => !isToday(one)) ?? []);
/** Lessons that may be held before the next time there is a network. */
const soon = computed(() => {
  const day = moment(page.data.value?.date ?? "");
  const end = new Date(day.getFullYear(), day.getMonth(), day.getDate() + 2).getTime();
  const tomorrow = page.data.value?.coming.filter((one) => moment(one.starts_at).getTime() < end);
  return [...(page.data.value?.lessons ?? []), ...(tomorrow ?? [])]
    .filter((one) => !one.closed)
    .map((one) => one.id);
});
/** As many challenges of a week as are named one by one: more are a number. */
const FEW = 3;
/** What is open, a line a week or set. */
const openWeeks = computed(() => {
  const weeks = new Map<string, Schemas["OpenChallenge"][]>();
  for (const one of challenges.data.value ?? [])
    weeks.set(one.week_id, [...(weeks.get(one.week_id) ?? []), one]);
  return [...weeks].map(([id, open]) => ({
    id,
    open,
    name: open[0]?.week ?? "",
    waiting: open.reduce((sum, one) => sum + one.waiting, 0),
    until:
      open
        .map((one) => one.until)
        .sort()
        .at(-1) ?? "",
  }));
});
/** A lesson of the timetable is begun with what stands there; it is the same on every device. */
function begin(one: Schemas["LessonToCome"]) {
  const { lesson_id, class_id, starts_at, minutes, place } = one;
  const query = { id: lesson_id, class: class_id, at: starts_at, minutes: String(minutes), place };
  return { name: "new-lesson", query };
}
function retest(one: Schemas["DueAgain"]) {
  return {
    name: "new-lesson",
    query: { class: one.class_id, test: one.tests.map((test) => test.id) },
  };
}
/** The tests of a lesson in which something waits, and what. */
function waits(lesson: Schemas["WaitingLesson"]) {
  return lesson.tests
    .map((one) => ({
      ...one,
      words: [
        one.recorded ? "" : t("nobodyYet"),
        one.recorded && one.missing ? t("nScoreIsMissing", one.missing) : "",
        one.odd ? t("nScoreNeedsACheck", one.odd) : "",
      ]
        .filter(Boolean)
        .join(", "),
    }))
    .filter((one) => one.words);
}
</script>

<template>
  <main id="main" tabindex="-1" class="page">
    <PageHead :title="page.data.value ? dayWords(page.data.value.date) : t('today')">
      <v-btn color="primary" variant="outlined" :to="{ name: 'new-lesson' }">{{
        t("newLesson")
      }}</v-btn>
    </PageHead>
    <BegunHere />
    <LoadState :query="page">
      <template v-if="page.data.value">
        <p v-if="!page.data.value.lessons.length && !ofToday.length" class="board">
          {{ t("noLessonsTodayPressNewLesson") }}
        </p>
        <ul class="lessons">
          <li v-for="lesson in page.data.value.lessons" :key="lesson.id">
            <RouterLink
              :to="{ name: 'hall', params: { lessonId: lesson.id } }"
              class="board lesson"
            >
              <span class="time figure">{{ clockTime(lesson.starts_at) }}</span>
              <span class="what">
                <span class="figure class-name">{{ lesson.class_name }}</span>
                <span>
                  {{
                    t("testsPlaceMinutesMin", {
                      tests: lesson.tests.join(", "),
                      place: lesson.place,
                      minutes: lesson.minutes,
                    })
                  }}
                </span>
              </span>
              <span class="people">
                <span>
                  <i18n-t keypath="progress.strongChildren" scope="global"
                    ><template #strong
                      ><b class="figure">{{ lesson.children }}</b></template
                    ></i18n-t
                  >
                </span>
                <span :class="{ noted: lesson.medical_notes }">
                  <b class="figure">{{ lesson.medical_notes }}</b>
                  {{ t("medicalNote", lesson.medical_notes) }}
                </span>
                <span>
                  <i18n-t keypath="progress.nRecorded" scope="global"
                    ><template #n
                      ><b class="figure">{{ lesson.scored }}</b></template
                    ></i18n-t
                  >
                </span>
              </span>
              <span class="open">{{ lesson.closed ? t("closed") : t("open") }} ›</span>
            </RouterLink>
          </li>
          <li v-for="one in ofToday" :key="one.lesson_id">
            <RouterLink :to="begin(one)" class="board lesson to-come">
              <span class="time figure">{{ clockTime(one.starts_at) }}</span>
              <span class="what">
                <span class="figure class-name">{{ one.class_name }}</span>
                <span>{{
                  t("notPlannedYetPlaceMinutesMin", { place: one.place, minutes: one.minutes })
                }}</span>
              </span>
              <span class="people">
                <span>
                  <i18n-t keypath="progress.strongChildren" scope="global"
                    ><template #strong
                      ><b class="figure">{{ one.children }}</b></template
                    ></i18n-t
                  >
                </span>
                <span :class="{ noted: one.medical_notes }">
                  <b class="figure">{{ one.medical_notes }}</b>
                  {{ t("medicalNote", one.medical_notes) }}
                </span>
              </span>
              <span class="open">{{ t("choose") }}</span>
            </RouterLink>
          </li>
        </ul>
        <ReadyForHall :lesson-ids="soon" />
        <section v-if="page.data.value.due.length" class="open-challenges">
          <h2>{{ t("dueAgain2") }}</h2>
          <ul class="short">
            <li v-for="one in page.data.value.due" :key="one.class_id">
              <RouterLink :to="retest(one)">{{ one.class_name }}</RouterLink>:
              {{ one.tests.map((test) => test.name).join(", ") }}
              <span class="quiet">{{ t("lastOnDay", { day: shortDay(one.last) }) }}</span>
            </li>
          </ul>
        </section>
        <section v-if="challenges.data.value?.length" class="open-challenges">
          <h2>{{ t("challengesOpenToday") }}</h2>
          <ul class="short">
            <li v-for="week in openWeeks" :key="week.id">
              <RouterLink :to="{ name: 'week', params: { weekId: week.id } }">{{
                week.name
              }}</RouterLink>:
              <template v-if="week.open.length > FEW">{{
                t("nChallengesOpen", week.open.length)
              }}</template>
              <template v-for="(one, n) in week.open.slice(0, FEW)" v-else :key="one.id"
                ><template v-if="n">, </template
                ><RouterLink :to="{ name: 'challenge', params: { challengeId: one.id } }">{{
                  one.test
                }}</RouterLink
                ><strong v-if="one.new" class="new">{{ t("newToday") }}</strong></template
              >
              <span class="quiet until">{{ t("untilDay", { day: shortDay(week.until) }) }}</span>
              <RouterLink
                v-if="week.waiting"
                class="until"
                :to="{ name: 'goes', params: { weekId: week.id } }"
                >{{ t("nGoWaits", week.waiting) }}</RouterLink
              >
            </li>
          </ul>
        </section>
        <div class="two">
          <section v-if="page.data.value.waiting.length">
            <h2>{{ t("waitingForACheck") }}</h2>
            <ul class="short">
              <li v-for="lesson in page.data.value.waiting" :key="lesson.id">
                <RouterLink :to="{ name: 'results', params: { lessonId: lesson.id } }">
                  {{ lesson.class_name }}, {{ shortDay(lesson.starts_at) }}
                </RouterLink>
                <ul class="waits">
                  <li v-for="test in waits(lesson)" :key="test.activity_id">
                    <RouterLink
                      :to="{
                        name: 'results',
                        params: { lessonId: lesson.id },
                        query: { activity: test.activity_id },
                      }"
                    >
                      {{ test.test }}</RouterLink>: {{ test.words }}
                  </li>
                  <li v-if="!waits(lesson).length">{{ t("nothingLeftToCheckYouCan") }}</li>
                </ul>
              </li>
            </ul>
          </section>
          <section v-if="page.data.value.coming.length || ahead.length">
            <h2>{{ t("theWeekAhead") }}</h2>
            <ul class="short">
              <li v-for="lesson in page.data.value.coming" :key="lesson.id">
                <RouterLink :to="{ name: 'hall', params: { lessonId: lesson.id } }">
                  {{ dayWords(lesson.starts_at) }},
                  {{ clockTime(lesson.starts_at) }}
                </RouterLink>
                · {{ lesson.class_name }}, {{ lesson.place }}
              </li>
              <li v-for="one in ahead" :key="one.lesson_id">
                <RouterLink :to="begin(one)">
                  {{ dayWords(one.starts_at) }}, {{ clockTime(one.starts_at) }}
                </RouterLink>
                · {{ one.class_name }}, {{ one.place }}
                <span class="quiet">{{ t("fromTheTimetable") }}</span>
              </li>
            </ul>
          </section>
        </div>
      </template>
    </LoadState>
  </main>
</template>

<style scoped>
.open-challenges {
  margin-top: var(--gap-24);
}
.new,
.until {
  margin-left: var(--gap-4);
}
.lessons {
  list-style: none;
  padding: 0;
  display: grid;
  gap: var(--gap-12);
}
.lesson {
  display: grid;
  grid-template-columns: 130px 1fr auto 90px;
  gap: var(--gap-24);
  align-items: center;
  color: var(--ink);
  text-decoration: none;
  border-left: var(--bar) solid var(--line);
}
.lesson:hover {
  border-color: var(--line);
}
/* Nothing of it is kept yet: a line that is not painted. */
.to-come {
  border-left-style: dashed;
}
.time {
  font-size: var(--type-40);
}
.what,
.people {
  display: grid;
}
.class-name {
  font-size: var(--type-28);
}
.people {
  grid-auto-flow: column;
  gap: var(--gap-24);
}
.people b {
  display: block;
  font-size: var(--type-28);
  line-height: 1;
}
.noted b {
  color: var(--pennant);
}
.open {
  font-weight: 700;
  color: var(--line);
  text-align: right;
}
.two {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: var(--gap-24);
  margin-top: var(--gap-32);
}
.waits {
  list-style: none;
  padding-left: var(--gap-12);
}
.short .waits li {
  padding: var(--gap-4) 0;
  border: 0;
}
.short {
  padding: 0;
  list-style: none;
}
.short li {
  padding: var(--gap-8) 0;
  border-bottom: var(--line-2) solid var(--rule);
}
@media (max-width: 860px) {
  .lesson {
    grid-template-columns: 1fr;
    gap: var(--gap-8);
  }
  .people {
    grid-auto-flow: row;
    grid-template-columns: repeat(3, 1fr);
  }
  .open {
    text-align: left;
  }
  .two {
    grid-template-columns: 1fr;
  }
}
</style>
