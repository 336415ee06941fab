<script setup lang="ts">
/** The last block: what the class found today, large enough to be read aloud from. */
import { t } from "../../messages/lessons";
import { useLessonSummary } from "../../parts/useLessonSummary";

const props = defineProps<{ lessonId: string }>();
const page = useLessonSummary(props.lessonId);
</script>

<template>
  <section
    v-if="page.data.value?.tests.length || page.data.value?.pulses.length"
    class="board"
    :aria-label="t('whatWeFound')"
  >
    <h2>{{ t("whatWeFound") }}</h2>
    <p v-for="test in page.data.value.tests" :key="test.activity_id" class="aloud">
      {{ test.aloud.join(" ") }}
    </p>
    <p v-if="page.data.value.pulses.length" class="aloud">
      {{ page.data.value.pulses.join(" ") }}
    </p>
  </section>
</template>

<style scoped>
.aloud {
  font-size: var(--type-24);
  margin-top: var(--gap-8);
}
</style>
