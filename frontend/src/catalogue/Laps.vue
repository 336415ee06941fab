<script setup lang="ts">
import { mdiClose } from "@mdi/js";
/** Laps for a distance, pace and splits, beside the course it is for. */
import PageHead from "../parts/PageHead.vue";
import Fold from "../parts/Fold.vue";
import { t } from "../messages/catalogue";
import { tell } from "../parts/form/tell";
import { ask } from "../parts/form/ask";
import { useQuery, useQueryClient } from "@tanstack/vue-query";
import { watchDebounced } from "@vueuse/core";
import { computed, reactive, ref } from "vue";
import { answer, client, type Schemas } from "../api/client";
import Course from "./Course.vue";

const queries = useQueryClient();
const courses = useQuery({
  queryKey: ["courses"],
  queryFn: () => answer(client.GET("/api/courses")),
});
const form = reactive({
  distance: t("n1Mile"),
  by: "lap",
  lap: "84m",
  steps: "26",
  step_mm: 1000,
  time: "",
  done: "",
});
const calibration = reactive({ known: "20m", steps: "" });
const sum = ref<Schemas["LapSum"] | null>(null);
const problem = ref("");
const stepProblem = ref("");
const name = ref("");
const course = computed(() =>
  form.by === "lap"
    ? { lap: form.lap, steps: null, step_mm: null }
    : { lap: "", steps: Number(form.steps) || null, step_mm: form.step_mm },
);

async function workOut() {
  const asked = { distance: form.distance, ...course.value, time: form.time, done: form.done };
  try {
    sum.value = await answer(client.POST("/api/laps", { body: asked }));
    problem.value = "";
  } catch (error) {
    problem.value = (error as Error).message;
  }
}
watchDebounced(form, workOut, { debounce: 250, deep: true, immediate: true });

async function calibrate() {
  stepProblem.value = "";
  try {
    const body = { known: calibration.known, steps: Number(calibration.steps) };
    form.step_mm = (await answer(client.POST("/api/laps/step", { body }))).step_mm;
    form.by = "steps";
  } catch (error) {
    stepProblem.value = (error as Error).message;
  }
}
async function keep() {
  problem.value = "";
  try {
    await answer(client.POST("/api/courses", { body: { name: name.value, ...course.value } }));
    tell(t("courseNameSaved", { name: name.value }));
    name.value = "";
    await queries.invalidateQueries({ queryKey: ["courses"] });
  } catch (error) {
    problem.value = (error as Error).message;
  }
}
function take(one: Schemas["CourseRow"]) {
  if (one.steps && one.step_mm) {
    Object.assign(form, { by: "steps", steps: String(one.steps), step_mm: one.step_mm });
  } else Object.assign(form, { by: "lap", lap: `${one.lap_mm}mm` });
}
async function forget(one: Schemas["CourseRow"]) {
  const question = {
    title: t("deleteTheCourseName", { name: one.name }),
    words: t("scoresAlreadyTakenKeepTheirLength"),
    yes: t("delete"),
  };
  if (!(await ask(question))) return;
  await answer(
    client.DELETE("/api/courses/{course_id}", { params: { path: { course_id: one.id } } }),
  );
  await queries.invalidateQueries({ queryKey: ["courses"] });
}
</script>

<template>
  <main id="main" tabindex="-1" class="page">
    <PageHead :title="t('lapsAndTheMile')" />
    <div class="laps">
      <form class="stack" @submit.prevent="workOut">
        <section class="board">
          <h2>{{ t("theCourse") }}</h2>
          <div class="line">
            <v-text-field v-model="form.distance" size="9" :label="t('distanceToRun')" />
            <v-select
              v-model="form.by"
              :label="t('lapMeasuredIn')"
              :items="[
                { value: 'lap', title: t('metresFeetOrYards') },
                { value: 'steps', title: t('steps') },
              ]"
            />
            <v-text-field
              v-if="form.by === 'lap'"
              v-model="form.lap"
              size="8"
              :label="t('lengthOfALap')"
            />
            <template v-else>
              <v-text-field
                v-model="form.steps"
                inputmode="decimal"
                size="6"
                :label="t('stepsInALap')"
              />
              <span class="quiet step">
                {{
                  form.step_mm === 1000
                    ? t("aStepIsLengthCmCommon", { length: form.step_mm / 10 })
                    : t("aStepIsLengthCmMeasured", { length: form.step_mm / 10 })
                }}
              </span>
            </template>
          </div>
          <Fold class="mt-2">
            <template #title>{{ t("measureThisClasssStep") }}</template>
            <div class="line mt-2">
              <v-text-field v-model="calibration.steps" size="5" :label="t('stepsCounted')" />
              <v-text-field v-model="calibration.known" size="6" :label="t('knownDistance')" />
              <v-btn variant="outlined" :disabled="!calibration.steps" @click="calibrate">
                {{ t("useThisStep") }}
              </v-btn>
              <span v-if="stepProblem" role="alert" class="problem">{{ stepProblem }}</span>
            </div>
          </Fold>
          <ul v-if="courses.data.value?.length" class="courses">
            <li v-for="one in courses.data.value" :key="one.id" class="line">
              <v-btn variant="outlined" size="small" @click="take(one)">
                {{ t("courseOfLength", { name: one.name, metres: one.lap_mm / 1000 }) }}
                <template v-if="one.steps">{{ t("nStep", one.steps) }}</template>
              </v-btn>
              <v-btn
                v-if="one.mine"
                :icon="mdiClose"
                variant="text"
                :aria-label="t('deleteName', { name: one.name })"
                @click="forget(one)"
              />
            </li>
          </ul>
          <div class="line mt-2">
            <v-text-field v-model="name" :label="t('nameOfThisCourse')" />
            <v-btn variant="outlined" :disabled="!name.trim()" @click="keep">{{
              t("saveCourse")
            }}</v-btn>
          </div>
        </section>
        <section class="board">
          <h2>{{ t("aRunOnThisCourse") }}</h2>
          <div class="line">
            <v-text-field
              v-model="form.time"
              class="grow"
              :placeholder="t('n1240Or1584')"
              :label="t('finishTimeOrTheTimeAt')"
            />
            <v-text-field
              v-model="form.done"
              placeholder="7+12m"
              size="8"
              :label="t('didNotFinishLapsRun')"
            />
          </div>
          <dl v-if="sum && (sum.pace_km || sum.run)" class="splits">
            <template v-if="sum.pace_km">
              <dt>{{ t("pace") }}</dt>
              <dd>
                {{
                  t("perkmPerKilometrePermilePerMile", {
                    perKm: sum.pace_km,
                    perMile: sum.pace_mile,
                  })
                }}
              </dd>
            </template>
            <template v-if="sum.splits.length">
              <dt>{{ t("laps") }}</dt>
              <dd>{{ sum.splits.join(" · ") }}</dd>
              <dt>{{ t("halves") }}</dt>
              <dd>{{ sum.halves }}</dd>
            </template>
            <template v-if="sum.projected">
              <dt>{{ t("onCourseFor") }}</dt>
              <dd>{{ sum.projected }}</dd>
            </template>
            <template v-if="sum.run">
              <dt>{{ t("runSoFar") }}</dt>
              <dd>{{ sum.run }}</dd>
            </template>
          </dl>
        </section>
        <p v-if="problem" role="alert" class="problem">{{ problem }}</p>
      </form>
      <section v-if="sum" class="board answer" aria-live="polite">
        <p class="figure huge" data-testid="whole">{{ sum.whole }}</p>
        <p class="figure unit">{{ t("laps2") }}</p>
        <p>
          {{
            t("exactlyExactLapsOfLapWords", {
              exact: sum.exact,
              lap: sum.lap_shown,
              words: sum.lap_words,
            })
          }}
        </p>
        <Course :lap-mm="sum.lap_mm" :finish-mm="sum.finish_mm" />
        <p>
          <i18n-t keypath="catalogue.startAtTheLineTheDistance" scope="global"
            ><template #place
              ><strong>{{
                sum.finish_mm
                  ? t("distanceAfterTheLineOnLap", { distance: sum.finish, lap: sum.whole })
                  : t("atTheLine")
              }}</strong></template
            ></i18n-t
          >
        </p>
      </section>
    </div>
  </main>
</template>

<style scoped>
.laps {
  display: grid;
  grid-template-columns: 7fr 5fr;
  gap: var(--gap-16);
  align-items: start;
}
.answer {
  text-align: center;
}
.huge {
  font-size: var(--type-128);
  line-height: 0.9;
}
.unit {
  font-size: var(--type-28);
  margin-bottom: var(--gap-8);
}
.courses {
  list-style: none;
  padding: 0;
  display: flex;
  flex-wrap: wrap;
  gap: var(--gap-4) var(--gap-12);
  margin-top: var(--gap-12);
}
.grow {
  flex: 1;
}
.step {
  align-self: end;
  padding-bottom: var(--gap-12);
}
.splits {
  display: grid;
  grid-template-columns: 130px 1fr;
  gap: var(--gap-4) var(--gap-12);
  margin-top: var(--gap-12);
  font-size: var(--type-18);
}
dt {
  font-weight: 700;
}
@media (max-width: 860px) {
  .laps {
    grid-template-columns: 1fr;
  }
}
</style>
