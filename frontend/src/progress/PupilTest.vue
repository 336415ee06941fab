<script setup lang="ts">
/** One test of a child in full: its lanes by form, the days, and why each score stands where it does. */
import Fold from "../parts/Fold.vue";
import { t } from "../messages/progress";
import type { Schemas } from "../api/client";
import Lane from "../parts/Lane.vue";
import WhyFold from "../parts/why/WhyFold.vue";
import { shortDay } from "../parts/words";
import HistoryPlot from "./HistoryPlot.vue";

defineProps<{ test: Schemas["TestRecord"] }>();
</script>

<template>
  <section class="test" :aria-label="test.test">
    <h2>{{ test.test }}</h2>
    <div v-for="one in test.lanes" :key="one.variant" class="board lane">
      <p class="lane-head">
        <strong v-if="one.variant">{{ one.variant }}</strong>
        <span>
          <i18n-t keypath="progress.bestStrong" scope="global"
            ><template #strong
              ><b class="figure">{{ one.best ?? "–" }}</b></template
            ></i18n-t
          >
        </span>
        <span>{{ t("latestDay", { day: shortDay(one.latest_on) }) }}</span>
        <span v-if="one.target"
          ><i18n-t keypath="progress.nextTargetStrong" scope="global"
            ><template #strong
              ><b class="figure target">{{ one.target }}</b></template
            ></i18n-t
          ></span
        >
      </p>
      <Lane :lane="one.lane" named :label="`${test.test}, ${one.variant}`" />
      <p>
        <template v-for="(words, place) in one.words" :key="place">
          <span v-if="place"> · </span><span :class="{ lead: !place }">{{ words }}</span>
        </template>
      </p>
      <p v-for="norm in one.norms" :key="norm.name">
        <strong>{{ norm.name }}:</strong>
        {{ norm.words || t("noNormWhy", { why: norm.why_not }) }}
        <template v-if="norm.moved">({{ norm.moved }})</template>
        <template v-if="norm.gain"> {{ norm.gain }}.</template>
        <span class="quiet">
          {{
            t("fromOfYear", { source: norm.source, population: norm.population, year: norm.year })
          }}
          <span class="tag">{{ norm.standing }}</span>
        </span>
      </p>
      <p v-if="one.trend">{{ t("overTimeTrend", { trend: one.trend }) }}</p>
      <Fold class="quiet">
        <template #title>{{ t("howWeKnow") }}</template>
        <p v-if="one.sure">{{ t("comparedWithLastTimeWords", { words: one.sure }) }}</p>
        <p v-if="one.trend_statistics">{{ one.trend_statistics }}.</p>
        <p>{{ t("bandRungsSource", { band: one.band_words, source: one.ladder_source }) }}</p>
      </Fold>
    </div>
    <div class="two">
      <div class="board">
        <h3 class="figure">{{ t("overTime") }}</h3>
        <HistoryPlot :history="test.history" :label="t('testOverTime', { test: test.test })" />
      </div>
      <div class="board scroll">
        <v-table>
          <thead>
            <tr>
              <th scope="col">{{ t("day") }}</th>
              <th scope="col">{{ t("score") }}</th>
              <th scope="col">{{ t("result") }}</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="entry in test.history" :key="entry.id">
              <td class="day">{{ shortDay(entry.on) }}</td>
              <td>
                <b class="figure">{{ entry.score.shown }}{{ entry.score.estimate ? " ~" : "" }}</b>
                <span v-if="entry.score.value !== null" class="quiet variant">
                  {{ entry.variant }}
                </span>
                <p v-if="entry.goes.length > 1" class="quiet">
                  {{ t("goesGoes", { goes: entry.goes.join(", ") }) }}
                </p>
                <p v-if="entry.conditions" class="quiet">{{ entry.conditions }}</p>
              </td>
              <td>
                {{ entry.score.value === null ? "" : entry.words.join(" · ") }}
                <WhyFold :attempt-id="entry.id" :label="`${test.test}, ${shortDay(entry.on)}`" />
                <p v-if="entry.correction" class="quiet">
                  {{
                    t("firstEnteredAsWasCorrectedBy", {
                      was: entry.correction.was,
                      who: entry.correction.by,
                      day: shortDay(entry.correction.at),
                      why: entry.correction.why ? `: ${entry.correction.why}` : "",
                    })
                  }}
                </p>
              </td>
            </tr>
          </tbody>
        </v-table>
      </div>
    </div>
  </section>
</template>

<style scoped>
.test {
  display: grid;
  gap: var(--gap-12);
  margin: var(--gap-16) 0 var(--gap-24);
  scroll-margin-top: 12px;
}
.lane-head {
  display: flex;
  flex-wrap: wrap;
  gap: var(--gap-4) var(--gap-24);
  align-items: baseline;
}
.lane-head b {
  font-size: var(--type-24);
}
.lead {
  font-weight: 700;
}
.two {
  display: grid;
  grid-template-columns: minmax(300px, 5fr) 7fr;
  gap: var(--gap-12);
}
.variant {
  margin-left: var(--gap-8);
}
.day {
  white-space: nowrap;
}
td b {
  font-size: var(--type-24);
  white-space: nowrap;
}
@media (max-width: 860px) {
  .two {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
