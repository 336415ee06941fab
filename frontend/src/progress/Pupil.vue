<script setup lang="ts">
/** A child on one screen: a lane a test; one of them in full, pulses, points and growth behind it. */
import PageHead from "../parts/PageHead.vue";
import Fold from "../parts/Fold.vue";
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
    <PageHead :title="pupil?.name ?? t('child')"
      ><template v-if="pupil" #facts>
        <RouterLink :to="{ name: 'class', params: { classId: pupil.class_id } }">
          {{ pupil.class_name }}
        </RouterLink>
        · {{ pupil.year_group }}
        <template v-if="pupil.house"> · {{ pupil.house }}</template>
        <template v-if="pupil.age !== null"> {{ t("ageYears", { age: pupil.age }) }}</template>
      </template></PageHead
    >
    <LoadState :query="page">
      <template v-if="pupil">
        <p v-if="pupil.medical_note" class="board noted">✚ {{ pupil.medical_note }}</p>
        <p v-if="!pupil.tests.length" class="board">
          {{ t("noScoresYetTheyAppearHere") }}
        </p>
        <Fold v-if="pupil.overall" class="overall">
          <template #title>
            <i18n-t keypath="progress.allTestsTogetherWordsWhy" scope="global"
              ><template #words
                ><strong>{{ pupil.overall.words || t("noOverallResult") }}</strong></template
              ><template #why
                ><span v-if="pupil.overall.why_not" class="quiet">
                  ({{ pupil.overall.why_not }})</span
                ></template
              ></i18n-t
            >
          </template>
          <p v-for="line in pupil.overall.working" :key="line">{{ line }}</p>
          <p class="quiet">{{ pupil.overall.scheme }}</p>
        </Fold>
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
  padding-top: var(--gap-8);
}
.noted {
  border-left: var(--bar) solid var(--pennant);
  margin-bottom: var(--gap-8);
  padding: var(--gap-8) var(--gap-12);
}
.overall {
  margin-bottom: var(--gap-8);
}
.more {
  display: grid;
  gap: var(--gap-8);
  margin-top: var(--gap-12);
}
</style>
