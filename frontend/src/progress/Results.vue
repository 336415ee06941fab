<script setup lang="ts">
/** What a lesson showed and what waits in it; then it is closed. */
import { useMutation, useQueryClient } from "@tanstack/vue-query";
import { computed } from "vue";
import { useRoute } from "vue-router";
import { answer, client } from "../api/client";
import { useConductor } from "../lessons/hall/clock/useConductor";
import { useLesson } from "../lessons/useLesson";
import { useResults } from "../lessons/useResults";
import { ask } from "../parts/form/ask";
import DoneRecord from "../parts/DoneRecord.vue";
import LoadState from "../parts/LoadState.vue";
import { clockTime, counted, shortDay } from "../parts/words";
import { useSync } from "../sync/useSync";
import CheckTest from "./CheckTest.vue";
import LessonFound from "./LessonFound.vue";

const { lesson } = useLesson();
const lessonId = lesson.value?.id ?? "";
const params = { path: { lesson_id: lessonId } };
const route = useRoute();
const sync = useSync();
const { state } = useConductor();
const queries = useQueryClient();
const page = useResults(lessonId);
const tests = computed(() => page.data.value?.tests ?? []);
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
  const found = page.data.value;
  const unsent = sync.entries.value;
  return [
    found?.missing ? `${counted(found.missing, "score")} missing` : "",
    found?.odd ? `${counted(found.odd, "score")} to look at` : "",
    unsent ? `${counted(unsent, "entry", "entries")} still on this device, not sent` : "",
  ].filter(Boolean);
}
const closing = useMutation({
  async mutationFn(closed: boolean) {
    if (!closed) return answer(client.POST("/api/lessons/{lesson_id}/reopen", { params }));
    await page.refetch();
    const open = left();
    const sure =
      !open.length ||
      (await ask({
        title: "Close it with this left?",
        words: `${open.join("; ")}. It can be opened again.`,
        yes: "Close all the same",
      }));
    return sure ? answer(client.POST("/api/lessons/{lesson_id}/close", { params })) : null;
  },
  async onSuccess(said) {
    if (!said) return;
    queries.setQueryData(["lesson", said.id], said);
    await queries.invalidateQueries({ queryKey: ["today"] });
  },
});
</script>

<template>
  <LoadState :query="page">
    <div v-if="page.data.value && lesson" class="results">
      <section class="sum">
        <p>
          <b class="figure" data-testid="missing">{{ page.data.value.missing }}</b> missing
        </p>
        <p>
          <b class="figure" data-testid="odd">{{ page.data.value.odd }}</b> to look at
        </p>
        <p v-if="page.data.value.pulses">
          <b class="figure">{{ page.data.value.pulses }}</b>
          {{ page.data.value.pulses === 1 ? "pulse" : "pulses" }}
        </p>
        <p v-for="one in page.data.value.pulse_blanks" :key="one.moment" class="quiet blanks">
          No pulse {{ one.moment.toLowerCase() }}: {{ one.names.join(", ") }}
        </p>
        <span class="space" />
        <v-btn
          v-if="test && !test.private"
          variant="outlined"
          :href="`/api/activities/${test.activity_id}/scores.csv`"
          download
        >
          Scores as CSV
        </v-btn>
        <v-btn
          v-if="!lesson.closed_at"
          color="primary"
          size="large"
          :loading="closing.isPending.value"
          @click="closing.mutate(true)"
        >
          Close the lesson
        </v-btn>
        <v-btn v-else variant="outlined" size="large" @click="closing.mutate(false)">
          Open again
        </v-btn>
      </section>
      <p v-if="closing.error.value" role="alert" class="problem">
        {{ closing.error.value.message }}
      </p>
      <p v-if="lesson.closed_at" role="status" class="board done">
        Closed by {{ lesson.closed_by }} on {{ shortDay(lesson.closed_at) }},
        {{ clockTime(lesson.closed_at) }}. Every score is kept; a child's name opens its record.
      </p>
      <p v-if="sync.entries.value" role="alert" class="board">
        {{ counted(sync.entries.value, "entry is", "entries are") }} still on this device and not
        sent. <RouterLink :to="{ name: 'hall' }">Look at them</RouterLink>
      </p>
      <p v-if="!tests.length" class="board">This lesson has no test.</p>
      <nav v-if="tests.length > 1" class="tests" aria-label="Tests">
        <RouterLink
          v-for="one in tests"
          :key="one.activity_id"
          class="tag"
          :class="{ strong: one.activity_id === test?.activity_id }"
          :to="{ name: 'results', query: { activity: one.activity_id } }"
        >
          {{ one.test }}
          <span class="quiet">
            {{ one.recorded }} in<template v-if="one.missing">, {{ one.missing }} missing</template
            ><template v-if="one.odd">, {{ one.odd }} to look at</template>
          </span>
        </RouterLink>
      </nav>
      <LessonFound :lesson-id="lessonId" :class-id="lesson.class_id" />
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
  gap: 18px;
}
.sum {
  display: flex;
  flex-wrap: wrap;
  align-items: end;
  gap: 12px 30px;
}
.sum b {
  font-size: 2.4rem;
  margin-right: 4px;
}
.space {
  flex: 1;
}
.tests {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
.tests a {
  display: grid;
  min-height: 48px;
  padding: 6px 14px;
  text-decoration: none;
}
.done {
  border-left: 6px solid var(--line);
}
</style>
