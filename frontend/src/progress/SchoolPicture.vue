<script setup lang="ts">
/** The school without names: taking part and change by year group and term, how the tests fit. */
import { useQuery } from "@tanstack/vue-query";
import { computed, defineAsyncComponent, ref } from "vue";
import { answer, client, type Schemas } from "../api/client";
import HandoutFile from "../parts/files/HandoutFile.vue";
import LoadState from "../parts/LoadState.vue";
import { useHandout } from "../parts/files/useHandout";
import { shortDay } from "../parts/words";

const BarPlot = defineAsyncComponent(() => import("../parts/BarPlot.vue"));
const page = useQuery({
  queryKey: ["school-picture"],
  queryFn: () => answer(client.GET("/api/school/picture")),
});
const picture = page.data;
const at = ref(-1);
const paper = useHandout();
const print = () => paper.begin(() => answer(client.POST("/api/school/head-page")));
const term = computed(() => picture.value?.terms.at(at.value));
const told = computed(() => term.value?.year_groups.filter((one) => one.told) ?? []);
const share = (part: number, of: number) => (of ? Math.round((100 * part) / of) : 0);
const names = computed(() => told.value.map((one) => one.name));
const partRows = computed(() => [
  { name: "took part", values: told.value.map((one) => share(one.took_part, one.children)) },
]);
type Part = "better" | "steady" | "lower";
const changeRows = computed(() =>
  (["better", "steady", "lower"] as Part[]).map((part) => ({
    name: part,
    values: told.value.map((one: Schemas["PictureYear"]) => share(one[part], one.compared)),
  })),
);
</script>

<template>
  <main id="main" tabindex="-1" class="page">
    <LoadState :query="page">
      <template v-if="picture">
        <div class="head">
          <h1>The school without names</h1>
          <div class="line">
            <select v-model="at" class="field" aria-label="Which term">
              <option v-for="(one, place) in picture.terms" :key="one.starts" :value="place">
                {{ one.name }}, {{ shortDay(one.starts) }}
              </option>
              <option :value="-1">the latest</option>
            </select>
            <v-btn variant="outlined" :loading="paper.busy.value" @click="print">
              Page for the head
            </v-btn>
          </div>
        </div>
        <HandoutFile :file="paper.current.value" :problem="paper.problem.value" />
        <hr class="court-line" />
        <div v-if="term" class="two">
          <section class="board">
            <h2>Taking part, %</h2>
            <BarPlot :names="names" :rows="partRows" label="Children with a score, in %" />
          </section>
          <section class="board">
            <h2>Change beyond day-to-day variation, %</h2>
            <BarPlot :names="names" :rows="changeRows" stacked label="Scores compared, in %" />
          </section>
        </div>
        <section v-if="term" class="board scroll mt-4" tabindex="0" aria-label="By year group">
          <h2>{{ term.name }}, {{ shortDay(term.starts) }} to {{ shortDay(term.ends) }}</h2>
          <table class="plain">
            <thead>
              <tr>
                <th scope="col">Year group</th>
                <th scope="col">Took part</th>
                <th scope="col">Compared</th>
                <th scope="col">▲ better</th>
                <th scope="col">= steady</th>
                <th scope="col">▽ lower</th>
                <th scope="col">By chance alone</th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="year in term.year_groups" :key="year.name">
                <th scope="row">{{ year.name }}</th>
                <template v-if="year.told">
                  <td>{{ year.took_part }} of {{ year.children }}</td>
                  <td>{{ year.compared }}</td>
                  <td>{{ year.better }}</td>
                  <td>{{ year.steady }}</td>
                  <td>{{ year.lower }}</td>
                  <td>about {{ year.chance }}</td>
                </template>
                <td v-else colspan="6" class="quiet">
                  fewer than {{ picture.fewest }} children: not told
                </td>
              </tr>
            </tbody>
          </table>
        </section>
        <section class="board scroll mt-4" tabindex="0" aria-label="How tests fit">
          <h2>How the tests of this term fit</h2>
          <table class="plain">
            <thead>
              <tr>
                <th scope="col">Test</th>
                <th scope="col">Children</th>
                <th scope="col">At its end</th>
                <th scope="col">At nought</th>
                <th scope="col">Does it fit?</th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="test in picture.tests" :key="test.test_id">
                <th scope="row">
                  <RouterLink :to="{ name: 'benchmarks', params: { testId: test.test_id } }">{{
                    test.test
                  }}</RouterLink>
                </th>
                <td>{{ test.n }}</td>
                <td>{{ test.at_top }} %</td>
                <td>{{ test.at_floor }} %</td>
                <td>{{ test.words }}</td>
              </tr>
            </tbody>
          </table>
          <p class="quiet mt-2">
            A test fits while fewer than 15 % are at an end of it (Terwee et al. 2007). A test's
            name opens its benchmarks, with the school's own norms and their intervals.
          </p>
        </section>
      </template>
    </LoadState>
  </main>
</template>

<style scoped>
.two {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(min(100%, 420px), 1fr));
  gap: 16px;
}
</style>
