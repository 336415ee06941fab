<script setup lang="ts">
/** Find a test by family, year, kit at hand, minutes, place and load. */
import { t } from "../messages/catalogue";
import { useQuery } from "@tanstack/vue-query";
import { computed, reactive } from "vue";
import { answer, client, type Schemas } from "../api/client";
import LoadState from "../parts/LoadState.vue";
import { several } from "../parts/words";
import { LOADS, PLACES } from "../api/vocabulary";
import { EFFORT, kindWords } from "./words";

type Card = Schemas["TestCard"];

const page = useQuery({
  queryKey: ["catalogue"],
  queryFn: () => answer(client.GET("/api/catalogue")),
});
const wanted = reactive({
  text: "",
  family: "",
  age: "",
  place: "",
  load: "",
  minutes: "",
  kit: "",
});
const kits = computed(() =>
  [...new Set(page.data.value?.tests.flatMap((one) => one.kit) ?? [])].sort(),
);

function fits(one: Card): boolean {
  const text = wanted.text.trim().toLowerCase();
  const age = Number(wanted.age);
  return (
    (!text || one.name.toLowerCase().includes(text)) &&
    (!wanted.family || one.family === wanted.family) &&
    (!wanted.age || (one.from_age <= age && age <= one.to_age)) &&
    (!wanted.place || one.places.includes(wanted.place)) &&
    (!wanted.load || one.loads.includes(wanted.load)) &&
    (!wanted.minutes || one.minutes <= Number(wanted.minutes)) &&
    (wanted.kit === "" ||
      (wanted.kit === "none" ? !one.kit.length : one.kit.every((item) => item === wanted.kit)))
  );
}
const found = computed(() => page.data.value?.tests.filter(fits) ?? []);
const families = computed(() =>
  (page.data.value?.families ?? [])
    .map((family) => ({
      ...family,
      tests: found.value.filter((one) => one.family === family.code),
    }))
    .filter((family) => family.tests.length),
);
const narrowed = computed(() => Object.values(wanted).some(Boolean));
function widen() {
  Object.assign(wanted, {
    text: "",
    family: "",
    age: "",
    place: "",
    load: "",
    minutes: "",
    kit: "",
  });
}
</script>

<template>
  <main id="main" tabindex="-1" class="page">
    <div class="head">
      <h1>{{ t("catalogue") }}</h1>
      <v-btn v-if="page.data.value?.may_edit" color="primary" :to="{ name: 'new-test' }">
        {{ t("newTest") }}
      </v-btn>
    </div>
    <hr class="court-line" />
    <LoadState :query="page">
      <form v-if="page.data.value" class="filters" role="search" @submit.prevent>
        <label class="labelled grow">
          {{ t("name") }}
          <input
            v-model="wanted.text"
            class="field"
            type="search"
            :placeholder="t('forExampleJumpOrSkip')"
          />
        </label>
        <label class="labelled">
          {{ t("family") }}
          <select v-model="wanted.family" class="field">
            <option value="">{{ t("any") }}</option>
            <option v-for="one in page.data.value.families" :key="one.code" :value="one.code">
              {{ one.words }}
            </option>
          </select>
        </label>
        <label class="labelled">
          {{ t("age") }}
          <select v-model="wanted.age" class="field">
            <option value="">{{ t("any") }}</option>
            <option v-for="age in [4, 5, 6, 7, 8, 9, 10, 11]" :key="age" :value="String(age)">
              {{ age }}
            </option>
          </select>
        </label>
        <label class="labelled">
          {{ t("place") }}
          <select v-model="wanted.place" class="field">
            <option value="">{{ t("any") }}</option>
            <option v-for="place in PLACES" :key="place" :value="place">{{ place }}</option>
          </select>
        </label>
        <label class="labelled">
          {{ t("kitYouHave") }}
          <select v-model="wanted.kit" class="field">
            <option value="">{{ t("any") }}</option>
            <option value="none">{{ t("noKit") }}</option>
            <option v-for="item in kits" :key="item" :value="item">
              {{ t("onlyItem", { item: several(item) }) }}
            </option>
          </select>
        </label>
        <label class="labelled">
          {{ t("load") }}
          <select v-model="wanted.load" class="field">
            <option value="">{{ t("any") }}</option>
            <option v-for="tag in LOADS" :key="tag" :value="tag">{{ tag }}</option>
          </select>
        </label>
        <label class="labelled">
          {{ t("minutes") }}
          <select v-model="wanted.minutes" class="field">
            <option value="">{{ t("any") }}</option>
            <option v-for="n in [5, 10, 15, 20]" :key="n" :value="String(n)">
              {{ t("upToMinutes", { minutes: n }) }}
            </option>
          </select>
        </label>
      </form>
      <p class="quiet sum" role="status">
        {{
          t("foundOfAllTestsMinutesAre", {
            found: found.length,
            all: page.data.value?.tests.length,
          })
        }}
        <button v-if="narrowed" type="button" class="link" @click="widen">
          {{ t("showAll") }}
        </button>
      </p>
      <p v-if="!found.length" class="board">
        {{ t("noTestMatchesChangeOrClear") }}
      </p>
      <section v-for="family in families" :key="family.code" class="family">
        <h2>{{ family.words }}</h2>
        <ul>
          <li v-for="one in family.tests" :key="one.id">
            <RouterLink :to="{ name: 'test', params: { testId: one.id } }" class="test">
              <strong class="figure name">{{ one.name }}</strong>
              <span class="quiet how">
                {{
                  t("secondsAgesFromageToageEffort", {
                    seconds: kindWords(one.kind, one.seconds),
                    fromAge: one.from_age,
                    toAge: one.to_age,
                    effort: EFFORT[one.effort],
                  })
                }}
              </span>
              <span class="what">
                {{ one.kit.length ? one.kit.join(", ") : t("noKit2") }}
              </span>
              <span class="minutes">
                <i18n-t keypath="catalogue.minutesMin" scope="global"
                  ><template #minutes
                    ><b class="figure">{{ one.minutes }}</b></template
                  ></i18n-t
                >
              </span>
              <span v-if="!one.ready" class="tag strong own">{{ t("own") }}</span>
            </RouterLink>
          </li>
        </ul>
      </section>
    </LoadState>
  </main>
</template>

<style scoped>
.filters {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
}
.filters .field {
  min-width: 108px;
  max-width: 190px;
}
.grow {
  flex: 1;
  min-width: 180px;
}
.grow .field {
  max-width: none;
  width: 100%;
}
.sum {
  margin: 12px 0;
}
.link {
  text-decoration: underline;
  color: var(--line);
  min-height: 32px;
  font-weight: 700;
}
.family {
  margin-top: 18px;
}
.family ul {
  list-style: none;
  padding: 0;
  columns: 2;
  column-gap: 28px;
}
.family li {
  break-inside: avoid;
}
.test {
  display: grid;
  grid-template-columns: 1fr auto 62px;
  gap: 0 12px;
  align-items: baseline;
  padding: 8px 4px;
  border-bottom: 1px solid var(--rule);
  color: var(--ink);
  text-decoration: none;
  position: relative;
}
.test:hover .name {
  text-decoration: underline;
}
.name {
  font-size: 1.35rem;
  grid-column: 1 / 3;
}
.how {
  grid-column: 1 / 2;
  grid-row: 2;
  font-size: 0.92rem;
}
.what {
  grid-row: 2;
  font-size: 0.92rem;
  text-align: right;
}
.minutes {
  grid-row: 1 / 3;
  grid-column: 3;
  text-align: right;
}
.minutes b {
  font-size: 1.5rem;
}
.own {
  grid-row: 1;
  grid-column: 2;
}
@media (max-width: 860px) {
  .family ul {
    columns: 1;
  }
}
</style>
