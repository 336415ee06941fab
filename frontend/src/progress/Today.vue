<script setup lang="ts">
import { t } from "../messages/progress";
import { useQuery } from "@tanstack/vue-query";
import { computed } from "vue";
import { answer, client, type Schemas } from "../api/client";
import LoadState from "../parts/LoadState.vue";
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
    <LoadState :query="page">
      <template v-if="page.data.value">
        <div class="head">
          <div>
            <p class="quiet">{{ t("today") }}</p>
            <h1>{{ dayWords(page.data.value.date) }}</h1>
          </div>
          <v-btn color="primary" variant="outlined" :to="{ name: 'new-lesson' }">{{
            t("newLesson")
          }}</v-btn>
        </div>
        <hr class="court-line" />
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
            <li v-for="one in challenges.data.value" :key="one.id">
              <i18n-t keypath="progress.testWeekUntilDayNew" scope="global"
                ><template #week>{{ one.week }}</template
                ><template #day>{{ shortDay(one.until) }}</template
                ><template #test
                  ><RouterLink :to="{ name: 'challenge', params: { challengeId: one.id } }">
                    {{ one.test }}
                  </RouterLink></template
                ><template #new
                  ><strong v-if="one.new">{{ t("newToday") }}</strong></template
                ></i18n-t
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
  margin-top: 26px;
}
.lessons {
  list-style: none;
  padding: 0;
  display: grid;
  gap: 14px;
}
.lesson {
  display: grid;
  grid-template-columns: 130px 1fr auto 90px;
  gap: 20px;
  align-items: center;
  color: var(--ink);
  text-decoration: none;
  border-left: 6px solid var(--line);
}
.lesson:hover {
  border-color: var(--line);
}
/* Nothing of it is kept yet: a line that is not painted. */
.to-come {
  border-left-style: dashed;
}
.time {
  font-size: 3rem;
}
.what,
.people {
  display: grid;
}
.class-name {
  font-size: 2rem;
}
.people {
  grid-auto-flow: column;
  gap: 22px;
}
.people b {
  display: block;
  font-size: 1.9rem;
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
  gap: 24px;
  margin-top: 34px;
}
.waits {
  list-style: none;
  padding-left: 14px;
}
.short .waits li {
  padding: 2px 0;
  border: 0;
}
.short {
  padding: 0;
  list-style: none;
}
.short li {
  padding: 10px 0;
  border-bottom: 1px solid var(--rule);
}
@media (max-width: 860px) {
  .lesson {
    grid-template-columns: 1fr;
    gap: 6px;
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
