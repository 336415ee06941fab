<script setup lang="ts">
/** A child on one screen: a lane a test; one of them in full, pulses, points and growth behind it. */
import { t } from "../messages/progress";
import { useQuery } from "@tanstack/vue-query";
import { computed, nextTick } from "vue";
import { useRoute, useRouter } from "vue-router";
import { answer, client } from "../api/client";
import LoadState from "../parts/LoadState.vue";
import { useSession } from "../account/session";
import Growth from "./Growth.vue";
import PupilLanes from "./PupilLanes.vue";
import PupilPoints from "./PupilPoints.vue";
import PupilPulses from "./PupilPulses.vue";
import PupilShare from "./PupilShare.vue";
import PupilTest from "./PupilTest.vue";

const props = defineProps<{ pupilId: string }>();
const session = useSession();
const route = useRoute();
const router = useRouter();
const page = useQuery({
  queryKey: ["pupil", props.pupilId],
  queryFn: () =>
    answer(client.GET("/api/pupils/{pupil_id}", { params: { path: { pupil_id: props.pupilId } } })),
});
const pupil = page.data;
const chosen = computed(() => String(route.query.test ?? ""));
const test = computed(() => pupil.value?.tests.find((one) => one.test_id === chosen.value));
async function choose(testId: string) {
  const next = testId === chosen.value ? undefined : testId;
  await router.replace({ query: { ...route.query, test: next } });
  await nextTick();
  document.getElementById("detail")?.scrollIntoView({ block: "start" });
}
</script>

<template>
  <main id="main" tabindex="-1" class="page child">
    <LoadState :query="page">
      <template v-if="pupil">
        <div class="head">
          <h1>{{ pupil.name }}</h1>
          <p class="quiet">
            <RouterLink :to="{ name: 'class', params: { classId: pupil.class_id } }">
              {{ pupil.class_name }}
            </RouterLink>
            · {{ pupil.year_group }}
            <template v-if="pupil.house"> · {{ pupil.house }}</template>
            <template v-if="pupil.age !== null"> {{ t("ageYears", { age: pupil.age }) }}</template>
          </p>
        </div>
        <hr class="court-line" />
        <p v-if="pupil.medical_note" class="board noted">✚ {{ pupil.medical_note }}</p>
        <p v-if="!pupil.tests.length" class="board">
          {{ t("noScoresYetTheyAppearHere") }}
        </p>
        <details v-if="pupil.overall" class="overall">
          <summary>
            <i18n-t keypath="progress.allTestsTogetherWordsWhy" scope="global"
              ><template #words
                ><strong>{{ pupil.overall.words || t("noOverallResult") }}</strong></template
              ><template #why
                ><span v-if="pupil.overall.why_not" class="quiet">
                  ({{ pupil.overall.why_not }})</span
                ></template
              ></i18n-t
            >
          </summary>
          <p v-for="line in pupil.overall.working" :key="line">{{ line }}</p>
          <p class="quiet">{{ pupil.overall.scheme }}</p>
        </details>
        <PupilLanes :tests="pupil.tests" :chosen="chosen" @choose="choose" />
        <div id="detail">
          <PupilTest v-if="test" :key="test.test_id" :test="test" />
        </div>
        <div class="more">
          <PupilPulses v-if="pupil.pulses.length" :pulses="pupil.pulses" />
          <PupilPoints :pupil-id="pupilId" />
          <PupilShare :pupil-id="pupilId" :name="pupil.name" />
          <Growth v-if="session.person?.may_see_growth" :pupil-id="pupilId" />
        </div>
      </template>
    </LoadState>
  </main>
</template>

<style scoped>
.child {
  padding-top: 10px;
}
.court-line {
  margin: 4px 0 8px;
}
.noted {
  border-left: 6px solid var(--pennant);
  margin-bottom: 8px;
  padding: 6px 14px;
}
.overall {
  margin-bottom: 8px;
}
.overall summary {
  min-height: 28px;
  cursor: pointer;
}
.more {
  display: grid;
  gap: 10px;
  margin-top: 12px;
}
</style>
