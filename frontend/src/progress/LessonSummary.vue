<script setup lang="ts">
/** What a lesson found: sentences to read aloud, for its last block, and one for the teacher. */
import { t } from "../messages/progress";
import { useLessonSummary } from "../parts/useLessonSummary";

const props = defineProps<{ lessonId: string; classId: string }>();
const page = useLessonSummary(props.lessonId);
</script>

<template>
  <section
    v-if="page.data.value?.tests.length || page.data.value?.pulses.length"
    class="board found"
  >
    <div class="head">
      <h2>{{ t("whatWeFound") }}</h2>
      <div class="line no-print">
        <v-btn
          color="primary"
          :to="{ name: 'handouts', params: { classId }, query: { kind: 'reports' } }"
        >
          {{ t("familyReports") }}
        </v-btn>
        <v-btn
          variant="outlined"
          :to="{ name: 'handouts', params: { classId }, query: { kind: 'certificates' } }"
        >
          {{ t("certificates") }}
        </v-btn>
        <v-btn variant="outlined" :to="{ name: 'class', params: { classId } }">{{
          t("classBoard")
        }}</v-btn>
      </div>
    </div>
    <div v-for="test in page.data.value.tests" :key="test.activity_id" class="one">
      <p class="aloud">{{ test.aloud.join(" ") }}</p>
      <p class="quiet">
        {{
          t(test.misfit ? "testAndMisfit" : "testAndWords", {
            test: test.test,
            words: test.teacher,
            misfit: test.misfit,
          })
        }}
        {{ t("onlyForYouTheLineAbove") }}
      </p>
    </div>
    <div v-if="page.data.value.pulses.length" class="one">
      <p class="aloud">{{ page.data.value.pulses.join(" ") }}</p>
      <p class="quiet">{{ t("anEstimateForPlanningEffortNever") }}</p>
    </div>
  </section>
</template>

<style scoped>
.found {
  display: grid;
  gap: var(--gap-8);
}
.one {
  border-top: var(--line-2) solid var(--rule);
  padding-top: var(--gap-8);
}
.aloud {
  font-size: var(--type-18);
}
</style>
