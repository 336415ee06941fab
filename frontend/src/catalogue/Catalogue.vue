<script setup lang="ts">
/** Find a test by family, year, kit at hand, minutes, place and load. */
import PageHead from "../parts/PageHead.vue";
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
    <PageHead :title="t('catalogue')">
      <v-btn v-if="page.data.value?.may_edit" color="primary" :to="{ name: 'new-test' }">
        {{ t("newTest") }}
      </v-btn>
    </PageHead>
    <LoadState :query="page">
      <form v-if="page.data.value" class="filters" role="search" @submit.prevent>
        <v-text-field
          v-model="wanted.text"
          class="grow"
          type="search"
          :placeholder="t('forExampleJumpOrSkip')"
          :label="t('name')"
        />
        <v-select
          v-model="wanted.family"
          :label="t('family')"
          :items="[
            { value: '', title: t('any') },
            ...page.data.value.families.map((one) => ({ value: one.code, title: one.words })),
          ]"
        />
        <v-select
          v-model="wanted.age"
          :label="t('age')"
          :items="[
            { value: '', title: t('any') },
            ...[4, 5, 6, 7, 8, 9, 10, 11].map((age) => ({ value: String(age), title: age })),
          ]"
        />
        <v-select
          v-model="wanted.place"
          :label="t('place')"
          :items="[
            { value: '', title: t('any') },
            ...PLACES.map((place) => ({ value: place, title: place })),
          ]"
        />
        <v-select
          v-model="wanted.kit"
          :label="t('kitYouHave')"
          :items="[
            { value: '', title: t('any') },
            { value: 'none', title: t('noKit') },
            ...kits.map((item) => ({ value: item, title: t('onlyItem', { item: several(item) }) })),
          ]"
        />
        <v-select
          v-model="wanted.load"
          :label="t('load')"
          :items="[
            { value: '', title: t('any') },
            ...LOADS.map((tag) => ({ value: tag, title: tag })),
          ]"
        />
        <v-select
          v-model="wanted.minutes"
          :label="t('minutes')"
          :items="[
            { value: '', title: t('any') },
            ...[5, 10, 15, 20].map((n) => ({
              value: String(n),
              title: t('upToMinutes', { minutes: n }),
            })),
          ]"
        />
      </form>
      <p class="quiet sum" role="status">
        {{
          t("foundOfAllTestsMinutesAre", {
            found: found.length,
            all: page.data.value?.tests.length,
          })
        }}
        <v-btn v-if="narrowed" variant="text" size="small" @click="widen">
          {{ t("showAll") }}
        </v-btn>
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
  gap: var(--gap-8);
}
.filters .v-input {
  flex: 1 1 8rem;
  max-width: none;
}
.filters .v-input.grow {
  flex-grow: 2.4;
}
.sum {
  margin: var(--gap-12) 0;
}
.family {
  margin-top: var(--gap-16);
}
.family ul {
  list-style: none;
  padding: 0;
  columns: 2;
  column-gap: var(--gap-24);
}
.family li {
  break-inside: avoid;
}
.test {
  display: grid;
  grid-template-columns: 1fr auto 62px;
  gap: 0 var(--gap-12);
  align-items: baseline;
  padding: var(--gap-8) var(--gap-4);
  border-bottom: var(--line-2) solid var(--rule);
  color: var(--ink);
  text-decoration: none;
  position: relative;
}
.test:hover .name {
  text-decoration: underline;
}
.name {
  font-size: var(--type-24);
  grid-column: 1 / 3;
}
.how {
  grid-column: 1 / 2;
  grid-row: 2;
  font-size: var(--type-14);
}
.what {
  grid-row: 2;
  font-size: var(--type-14);
  text-align: right;
}
.minutes {
  grid-row: 1 / 3;
  grid-column: 3;
  text-align: right;
}
.minutes b {
  font-size: var(--type-24);
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
