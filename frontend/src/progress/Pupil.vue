<script setup lang="ts">
import { useQuery } from "@tanstack/vue-query";
import { answer, client } from "../api/client";
import PupilPoints from "./PupilPoints.vue";
import Lane from "../parts/Lane.vue";
import LoadState from "../parts/LoadState.vue";
import { shortDay } from "../parts/words";
import { useSession } from "../people/session";
import Growth from "./Growth.vue";
import HistoryPlot from "./HistoryPlot.vue";

const props = defineProps<{ pupilId: string }>();
const session = useSession();
const page = useQuery({
  queryKey: ["pupil", props.pupilId],
  queryFn: () =>
    answer(client.GET("/api/pupils/{pupil_id}", { params: { path: { pupil_id: props.pupilId } } })),
});
const pupil = page.data;
</script>

<template>
  <main id="main" tabindex="-1" class="page">
    <LoadState :query="page">
      <template v-if="pupil">
        <div class="head">
          <h1>{{ pupil.name }}</h1>
          <p class="quiet">
            <RouterLink :to="{ name: 'class', params: { classId: pupil.class_id } }">
              {{ pupil.class_name }}
            </RouterLink>
            · {{ pupil.year_group }}
            <template v-if="pupil.house">· {{ pupil.house }} </template>
            <template v-if="pupil.age !== null">· {{ pupil.age }} years</template>
          </p>
        </div>
        <hr class="court-line" />
        <p v-if="pupil.medical_note" class="board noted">✚ {{ pupil.medical_note }}</p>
        <p v-if="!pupil.tests.length" class="board">
          No scores yet. They appear here from the first lesson on.
        </p>
        <Growth v-if="session.person?.may_see_growth" :pupil-id="pupilId" />
        <section v-for="test in pupil.tests" :key="test.test" class="test">
          <h2>{{ test.test }}</h2>
          <div v-for="one in test.lanes" :key="one.variant" class="board lane">
            <p class="lane-head">
              <strong v-if="one.variant">{{ one.variant }}</strong>
              <span>
                best <b class="figure">{{ one.best ?? "–" }}</b>
              </span>
              <span>latest {{ shortDay(one.latest_on) }}</span>
            </p>
            <Lane :lane="one.lane" named :label="`${test.test}, ${one.variant}`" />
            <p>
              <template v-for="(words, place) in one.words" :key="place">
                <span v-if="place"> · </span><span :class="{ lead: !place }">{{ words }}</span>
              </template>
            </p>
            <p v-if="one.target">
              Next target: <b class="figure target">{{ one.target }}</b>
            </p>
            <p v-for="norm in one.norms" :key="norm.name">
              <strong>{{ norm.name }}:</strong>
              {{ norm.words || `not judged: ${norm.why_not}` }}
              <template v-if="norm.moved">({{ norm.moved }})</template>
              <span class="quiet">
                — {{ norm.source }}; {{ norm.population }}, {{ norm.year }};
                <span class="tag">{{ norm.standing }}</span>
              </span>
            </p>
            <p v-if="one.trend">Over the weeks: {{ one.trend }}.</p>
            <details class="quiet">
              <summary>How this is known</summary>
              <p v-if="one.sure">Beside last time: {{ one.sure }}.</p>
              <p v-if="one.trend_statistics">{{ one.trend_statistics }}.</p>
              <p>{{ one.band_words }} Rungs: {{ one.ladder_source }}.</p>
            </details>
          </div>
          <div class="two">
            <div class="board">
              <h3 class="figure">In time</h3>
              <HistoryPlot :history="test.history" :label="`${test.test} in time`" />
            </div>
            <div class="board scroll">
              <table class="plain">
                <thead>
                  <tr>
                    <th scope="col">Day</th>
                    <th scope="col">Score</th>
                    <th scope="col">What it says</th>
                  </tr>
                </thead>
                <tbody>
                  <tr v-for="entry in test.history" :key="entry.id">
                    <td class="day">{{ shortDay(entry.on) }}</td>
                    <td>
                      <b class="figure"
                        >{{ entry.score.shown }}{{ entry.score.estimate ? " ~" : "" }}</b
                      >
                      <span v-if="entry.score.value !== null" class="quiet variant">
                        {{ entry.variant }}
                      </span>
                    </td>
                    <td>
                      {{ entry.score.value === null ? "" : entry.words.join(" · ") }}
                      <p v-if="entry.correction" class="quiet">
                        First entered as {{ entry.correction.was }}; corrected by
                        {{ entry.correction.by }}, {{ shortDay(entry.correction.at)
                        }}{{ entry.correction.why ? `: ${entry.correction.why}` : "" }}
                      </p>
                    </td>
                  </tr>
                </tbody>
              </table>
            </div>
          </div>
        </section>
        <PupilPoints :pupil-id="pupilId" />
      </template>
    </LoadState>
  </main>
</template>

<style scoped>
.noted {
  border-left: 6px solid var(--pennant);
  margin-bottom: 14px;
}
.test {
  display: grid;
  gap: 12px;
  margin-bottom: 20px;
}
.lane-head {
  display: flex;
  gap: 20px;
  align-items: baseline;
}
.lane-head b {
  font-size: 1.5rem;
}
.lead {
  font-weight: 700;
}
.target {
  font-size: 1.4rem;
}
.two {
  display: grid;
  grid-template-columns: minmax(300px, 5fr) 7fr;
  gap: 12px;
}
.variant {
  margin-left: 8px;
}
.day {
  white-space: nowrap;
}
td b {
  font-size: 1.35rem;
  white-space: nowrap;
}
@media (max-width: 860px) {
  .two {
    grid-template-columns: 1fr;
  }
}
</style>
