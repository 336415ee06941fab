<script setup lang="ts">
import { mdiClose } from "@mdi/js";
/** A test's benchmarks: the school's ladders, published norms with their origin, the own norm. */
import PageHead from "../parts/PageHead.vue";
import { t } from "../messages/catalogue";
import { useQuery, useQueryClient } from "@tanstack/vue-query";
import { computed, ref } from "vue";
import { answer, client, type Schemas } from "../api/client";
import Confirm from "../parts/form/Confirm.vue";
import LoadState from "../parts/LoadState.vue";
import LadderEditor from "./LadderEditor.vue";
import NormImport from "./NormImport.vue";

type Row = Schemas["LadderRow"];

const props = defineProps<{ testId: string }>();
const queries = useQueryClient();
const page = useQuery({
  queryKey: ["benchmarks", props.testId],
  queryFn: () =>
    answer(
      client.GET("/api/tests/{test_id}/benchmarks", {
        params: { path: { test_id: props.testId } },
      }),
    ),
});
const data = page.data;
const variant = ref<string | null>(null);
/** The usual form to begin with: it is the one that the children do. */
const shownVariant = computed(() => {
  const all = data.value?.variants ?? [];
  return variant.value ?? (all.find((one) => one.usual) ?? all.at(-1))?.code ?? "";
});
const editing = ref<Row | "new" | null>(null);
const importing = ref(false);
const dropping = ref<{ kind: "ladder" | "norm"; id: string; words: string } | null>(null);
const asking = computed({
  get: () => dropping.value !== null,
  set: (open) => {
    if (!open) dropping.value = null;
  },
});
const problem = ref("");
const openNorm = ref<string | null>(null);

const ladders = computed(() => {
  const order = new Map(data.value?.year_groups.map((year, place) => [year.id, place]));
  return (data.value?.ladders ?? [])
    .filter((row) => row.variant === shownVariant.value)
    .sort(
      (a, b) => (order.get(a.year_group_id ?? "") ?? 99) - (order.get(b.year_group_id ?? "") ?? 99),
    );
});
const names = computed(() => {
  const longest = [...ladders.value].sort((a, b) => b.rungs.length - a.rungs.length)[0];
  return longest?.rungs.length ?? 0;
});
const own = computed(() =>
  (data.value?.own ?? []).filter((row) => row.variant === shownVariant.value),
);
const ownReady = computed(() => own.value.filter((row) => row.percentiles.length));
/** The outermost percentiles are there only where enough children are. */
const ownMarks = computed(() => {
  const rows = ownReady.value.map((row) => row.percentiles.map((one) => one.mark));
  return rows.sort((a, b) => b.length - a.length)[0] ?? [];
});
const markOf = (row: (typeof own.value)[number], mark: string) =>
  row.percentiles.find((one) => one.mark === mark);
const ownMost = computed(() => Math.max(0, ...own.value.map((row) => row.n)));

function whose(row: Row): string {
  const year = data.value?.year_groups.find((one) => one.id === row.year_group_id)?.name;
  const who = year ?? t("agesAges", { ages: row.ages?.join("–") });
  if (row.sex === "female") return t("whoGirls", { who });
  return row.sex === "male" ? t("whoBoys", { who }) : who;
}
function sexWords(sex: string): string {
  return { female: "girls", male: "boys" }[sex] ?? "all";
}
async function renew() {
  editing.value = null;
  importing.value = false;
  await queries.invalidateQueries({ queryKey: ["benchmarks", props.testId] });
  await queries.invalidateQueries({ queryKey: ["lanes"] });
  await queries.invalidateQueries({ queryKey: ["pupil"] });
}
async function drop() {
  const one = dropping.value;
  if (!one) return;
  dropping.value = null;
  problem.value = "";
  try {
    if (one.kind === "ladder") {
      const params = { path: { ladder_id: one.id } };
      await answer(client.DELETE("/api/ladders/{ladder_id}", { params }));
    } else {
      await answer(
        client.DELETE("/api/norms/{norm_id}", { params: { path: { norm_id: one.id } } }),
      );
    }
    await renew();
  } catch (error) {
    problem.value = (error as Error).message;
  }
}
/** Another form of the test: what is being edited belonged to the one before. */
function choose(code: string) {
  variant.value = code;
  editing.value = null;
}
</script>

<template>
  <main id="main" tabindex="-1" class="page">
    <PageHead :title="t('benchmarks')"
      ><template #trail>
        <RouterLink :to="{ name: 'catalogue' }">{{ t("catalogue") }}</RouterLink>
        <template v-if="data">
          ·
          <RouterLink :to="{ name: 'test', params: { testId } }">{{
            data.test
          }}</RouterLink></template
        >
      </template>
      <v-btn-toggle
        v-if="data && data.variants.length > 1"
        :model-value="shownVariant"
        mandatory
        variant="outlined"
        :aria-label="t('form')"
        @update:model-value="choose"
      >
        <v-btn v-for="one in data.variants" :key="one.code" :value="one.code">{{ one.name }}</v-btn>
      </v-btn-toggle>
    </PageHead>
    <LoadState :query="page">
      <template v-if="data">
        <p v-if="problem" role="alert" class="problem">{{ problem }}</p>

        <section>
          <div class="head">
            <h2>{{ t("ladders") }}</h2>
            <v-btn v-if="data.may_edit && !editing" color="primary" @click="editing = 'new'">
              {{ t("newLadder") }}
            </v-btn>
          </div>
          <LadderEditor
            v-if="editing"
            :key="editing === 'new' ? 'new' : editing.id"
            :page="data"
            :variant="shownVariant"
            :ladder="editing === 'new' ? null : editing"
            @kept="renew"
            @leave="editing = null"
            @change="editing = $event"
          />
          <p v-if="!ladders.length" class="board">
            {{ data.may_edit ? t("thisTestHasNoLadderYet") : t("thisTestHasNoLadderYet2") }}
          </p>
          <div v-else class="board scroll" tabindex="0" role="region" :aria-label="t('benchmarks')">
            <v-table>
              <thead>
                <tr>
                  <th scope="col">{{ t("for") }}</th>
                  <th v-for="place in names" :key="place" scope="col">
                    {{ t("rungPlace", { place }) }}
                  </th>
                  <th scope="col">{{ t("source") }}</th>
                  <th v-if="data.may_edit" scope="col">
                    <span class="sr-only">{{ t("edit") }}</span>
                  </th>
                </tr>
              </thead>
              <tbody>
                <tr v-for="row in ladders" :key="row.id">
                  <th scope="row">{{ whose(row) }}</th>
                  <td v-for="place in names" :key="place">
                    <template v-if="row.rungs[place - 1]">
                      <b class="figure at">
                        {{
                          row.rungs[place - 1]?.beyond
                            ? t("beyondScore", { score: row.rungs[place - 1]?.shown })
                            : row.rungs[place - 1]?.shown
                        }}
                      </b>
                      <span class="quiet"> {{ row.rungs[place - 1]?.name }}</span>
                    </template>
                  </td>
                  <td class="quiet source">
                    {{ row.source }}
                    <p v-for="found in row.findings" :key="found.words" class="finding">
                      <strong>{{ found.fault }}:</strong> {{ found.words }}
                    </p>
                  </td>
                  <td v-if="data.may_edit" class="acts">
                    <v-btn size="small" variant="outlined" @click="editing = row">{{
                      t("edit")
                    }}</v-btn>
                    <v-btn
                      :icon="mdiClose"
                      variant="text"
                      :aria-label="t('deleteTheLadderForWho', { who: whose(row) })"
                      @click="dropping = { kind: 'ladder', id: row.id, words: whose(row) }"
                    />
                  </td>
                </tr>
              </tbody>
            </v-table>
          </div>
        </section>

        <section class="part">
          <div class="head">
            <h2>{{ t("publishedNorms") }}</h2>
            <v-btn v-if="data.may_edit" variant="outlined" @click="importing = !importing">
              {{ t("importNorms") }}
            </v-btn>
          </div>
          <NormImport
            v-if="importing"
            :test-id="testId"
            :unit="data.unit"
            :variant="shownVariant"
            @kept="renew"
            @leave="importing = false"
          />
          <p v-if="!data.norms.length" class="quiet">
            {{ t("thisTestHasNoPublishedNorms") }}
          </p>
          <article v-for="norm in data.norms" :key="norm.id" class="board norm">
            <div class="head">
              <h3 class="figure">{{ norm.name }}</h3>
              <span class="line">
                <v-btn
                  size="small"
                  variant="outlined"
                  @click="openNorm = openNorm === norm.id ? null : norm.id"
                >
                  {{ openNorm === norm.id ? t("hideTable") : t("showTable") }}
                </v-btn>
                <v-btn
                  v-if="data.may_edit"
                  size="small"
                  variant="text"
                  @click="dropping = { kind: 'norm', id: norm.id, words: norm.name }"
                >
                  {{ t("delete") }}
                </v-btn>
              </span>
            </div>
            <p>
              {{
                t("fromOfYear", {
                  source: norm.source,
                  population: norm.population,
                  year: norm.year,
                })
              }}
            </p>
            <p>
              <span class="tag strong">{{ norm.standing }}</span>
            </p>
            <v-table v-if="openNorm === norm.id" class="small">
              <thead>
                <tr>
                  <th scope="col">{{ t("age") }}</th>
                  <th scope="col">{{ t("sex") }}</th>
                  <th v-for="column in norm.columns" :key="column" scope="col" class="number">
                    {{ column }}
                  </th>
                </tr>
              </thead>
              <tbody>
                <tr v-for="row in norm.rows" :key="`${row.sex}${row.age}`">
                  <td>{{ row.age }}</td>
                  <td>{{ sexWords(row.sex) }}</td>
                  <td v-for="(cell, place) in row.cells" :key="place" class="number">{{ cell }}</td>
                </tr>
              </tbody>
            </v-table>
          </article>
        </section>

        <section class="part">
          <h2>{{ t("ourSchoolsOwnNorm") }}</h2>
          <p class="quiet">
            {{ t("eachChildCountsOnceWithTheir", ownMost) }}
          </p>
          <div
            v-if="ownReady.length"
            class="board scroll"
            tabindex="0"
            role="region"
            :aria-label="t('ourSchoolsOwnNorm')"
          >
            <v-table>
              <thead>
                <tr>
                  <th scope="col">{{ t("age") }}</th>
                  <th scope="col">{{ t("sex") }}</th>
                  <th scope="col" class="number">{{ t("children") }}</th>
                  <th v-for="mark in ownMarks" :key="mark" scope="col" class="number">
                    {{ mark }}
                  </th>
                </tr>
              </thead>
              <tbody>
                <tr v-for="row in ownReady" :key="`${row.age}${row.sex}`">
                  <td>{{ row.age }}</td>
                  <td>{{ sexWords(row.sex) }}</td>
                  <td class="number">{{ row.n }}</td>
                  <td v-for="mark in ownMarks" :key="mark" class="number">
                    <b class="figure">{{ markOf(row, mark)?.shown ?? "–" }}</b>
                    <span v-if="markOf(row, mark)?.interval" class="quiet interval">
                      {{ markOf(row, mark)?.interval }}
                    </span>
                  </td>
                </tr>
              </tbody>
            </v-table>
          </div>
        </section>
        <Confirm
          v-model="asking"
          :title="t('deleteWhat', { what: dropping?.words ?? '' })"
          :words="t('scoresAreKeptButThisWill')"
          :yes="t('delete')"
          @yes="drop"
        />
      </template>
    </LoadState>
  </main>
</template>

<style scoped>
.part {
  margin-top: var(--gap-24);
}
.at {
  font-size: var(--type-24);
  margin-right: var(--gap-8);
}
th[scope="row"] {
  font-family: var(--figure);
  font-size: var(--type-18);
  white-space: nowrap;
}
.source {
  min-width: 14rem;
}
.finding {
  color: var(--ink);
}
.acts {
  white-space: nowrap;
}
.norm {
  margin-top: var(--gap-8);
}
.norm h3 {
  font-size: var(--type-24);
}
.small {
  margin-top: var(--gap-8);
  font-size: var(--type-14);
}
.interval {
  display: block;
  font-size: var(--type-14);
  white-space: nowrap;
}
</style>
