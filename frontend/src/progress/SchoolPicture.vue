<script setup lang="ts">
/** The school without names: taking part and change by year group and term, how the tests fit. */
import PageHead from "../parts/PageHead.vue";
import { t } from "../messages/progress";
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
  { name: t("tookPart"), values: told.value.map((one) => share(one.took_part, one.children)) },
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
    <PageHead :title="t('theSchoolWithoutNames')"
      ><template #trail
        ><RouterLink :to="{ name: 'school' }">{{ t("school") }}</RouterLink></template
      >
      <v-select
        v-if="picture"
        v-model="at"
        :aria-label="t('term')"
        :items="[
          ...picture.terms.map((one, place) => ({
            value: place,
            title: `${one.name}, ${shortDay(one.starts)}`,
          })),
          { value: -1, title: t('latestTerm') },
        ]"
      />
      <v-btn variant="outlined" :loading="paper.busy.value" @click="print">
        {{ t("pageForTheHeadTeacher") }}
      </v-btn>
    </PageHead>
    <HandoutFile :file="paper.current.value" :problem="paper.problem.value" />
    <LoadState :query="page">
      <template v-if="picture">
        <div v-if="term" class="two">
          <section class="board">
            <h2>{{ t("takingPart") }}</h2>
            <BarPlot :names="names" :rows="partRows" :label="t('childrenWithAScore')" />
          </section>
          <section class="board">
            <h2>{{ t("changedByMoreThanDayTo") }}</h2>
            <BarPlot :names="names" :rows="changeRows" stacked :label="t('scoresCompared')" />
          </section>
        </div>
        <section v-if="term" class="board scroll mt-4" tabindex="0" :aria-label="t('byYearGroup')">
          <h2>
            {{
              t("termFirstToLast", {
                term: term.name,
                first: shortDay(term.starts),
                last: shortDay(term.ends),
              })
            }}
          </h2>
          <v-table>
            <thead>
              <tr>
                <th scope="col">{{ t("yearGroup") }}</th>
                <th scope="col" class="number">{{ t("tookPart2") }}</th>
                <th scope="col" class="number">{{ t("compared") }}</th>
                <th scope="col" class="number">{{ t("better") }}</th>
                <th scope="col" class="number">{{ t("steady") }}</th>
                <th scope="col" class="number">{{ t("lower") }}</th>
                <th scope="col" class="number">{{ t("byChance") }}</th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="year in term.year_groups" :key="year.name">
                <th scope="row">{{ year.name }}</th>
                <template v-if="year.told">
                  <td class="number">
                    {{
                      t("tookpartOfChildren", { tookPart: year.took_part, children: year.children })
                    }}
                  </td>
                  <td class="number">{{ year.compared }}</td>
                  <td class="number">{{ year.better }}</td>
                  <td class="number">{{ year.steady }}</td>
                  <td class="number">{{ year.lower }}</td>
                  <td class="number">{{ t("aboutN", { n: year.chance }) }}</td>
                </template>
                <td v-else colspan="6" class="quiet">
                  {{ t("fewerThanNChildrenSoNot", { n: picture.fewest }) }}
                </td>
              </tr>
            </tbody>
          </v-table>
        </section>
        <section class="board scroll mt-4" tabindex="0" :aria-label="t('howTestsFit')">
          <h2>{{ t("howThisTermsTestsFit") }}</h2>
          <v-table>
            <thead>
              <tr>
                <th scope="col">{{ t("test") }}</th>
                <th scope="col" class="number">{{ t("children") }}</th>
                <th scope="col" class="number">{{ t("atTheMaximum") }}</th>
                <th scope="col" class="number">{{ t("atZero") }}</th>
                <th scope="col">{{ t("doesItFit") }}</th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="test in picture.tests" :key="test.test_id">
                <th scope="row">
                  <RouterLink :to="{ name: 'benchmarks', params: { testId: test.test_id } }">{{
                    test.test
                  }}</RouterLink>
                </th>
                <td class="number">{{ test.n }}</td>
                <td class="number">{{ test.at_top }} %</td>
                <td class="number">{{ test.at_floor }} %</td>
                <td>{{ test.words }}</td>
              </tr>
            </tbody>
          </v-table>
          <p class="quiet mt-2">
            {{ t("aTestFitsWhileFewerThan") }}
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
  gap: var(--gap-16);
}
</style>
