<script setup lang="ts">
/** The weeks of challenges and the sets, and making a new one. */
import PageHead from "../parts/PageHead.vue";
import { t } from "../messages/challenges";
import { useQuery } from "@tanstack/vue-query";
import { computed, ref } from "vue";
import { useRoute } from "vue-router";
import { answer, client } from "../api/client";
import LoadState from "../parts/LoadState.vue";
import { dayWords } from "../parts/words";
import NewWeek from "./NewWeek.vue";

const query = useQuery({
  queryKey: ["weeks"],
  queryFn: () => answer(client.GET("/api/weeks")),
  staleTime: 0,
});
const route = useRoute();
/** A page that proposes a week leads here with its class and tests. */
const asked = computed(() => ({
  classId: String(route.query.class ?? ""),
  tests: String(route.query.tests ?? "")
    .split(",")
    .filter(Boolean),
}));
const making = ref<"week" | "set" | null>(asked.value.tests.length ? "week" : null);
const classes = useQuery({
  queryKey: ["classes"],
  queryFn: () => answer(client.GET("/api/classes")),
});
const turn = (kind: "week" | "set") => (making.value = making.value === kind ? null : kind);
</script>

<template>
  <main id="main" tabindex="-1" class="page">
    <PageHead :title="t('challenges')">
      <v-btn variant="outlined" :to="{ name: 'games' }">{{ t("betweenSchools") }}</v-btn>
      <v-btn variant="outlined" :to="{ name: 'warm-up' }">{{ t("warmUpGame") }}</v-btn>
      <v-btn
        v-for="kind in ['set', 'week'] as const"
        :key="kind"
        color="primary"
        :aria-expanded="making === kind"
        @click="turn(kind)"
      >
        {{ kind === "set" ? t("newSet") : t("newWeek") }}
      </v-btn>
    </PageHead>
    <NewWeek v-if="making" :key="making" :kind="making" :asked="asked" @close="making = null" />
    <nav v-if="query.data.value?.length" class="line series" :aria-label="t('weekByWeek')">
      {{ t("weekByWeek2") }}
      <RouterLink
        v-for="one in classes.data.value?.classes"
        :key="one.id"
        class="tag"
        :to="{ name: 'series', params: { classId: one.id } }"
        >{{ one.name }}</RouterLink
      >
    </nav>
    <LoadState :query="query">
      <p v-if="!query.data.value?.length" class="board">
        {{ t("noWeeksYetAWeekHas") }}
      </p>
      <ul class="weeks">
        <li v-for="week in query.data.value" :key="week.id">
          <RouterLink class="board week" :to="{ name: 'week', params: { weekId: week.id } }">
            <strong class="figure">{{ week.name }}</strong>
            <span>{{
              t("startsonToEndson", {
                startsOn: dayWords(week.starts_on),
                endsOn: dayWords(week.ends_on),
              })
            }}</span>
            <span class="quiet">{{ week.classes.join(", ") }}</span>
            <span class="tests">{{ week.tests.join(" · ") || t("noChallengeChosenYet") }}</span>
          </RouterLink>
        </li>
      </ul>
    </LoadState>
  </main>
</template>

<style scoped>
.series {
  margin-top: var(--gap-8);
}
.series a {
  padding: var(--gap-4) var(--gap-8);
  text-decoration: none;
}
.weeks {
  list-style: none;
  padding: 0;
  display: grid;
  gap: var(--gap-8);
  margin-top: var(--gap-12);
}
.week {
  display: grid;
  grid-template-columns: 1fr max-content;
  gap: var(--gap-4) var(--gap-24);
  color: var(--ink);
  text-decoration: none;
}
.tests {
  grid-column: 1 / -1;
}
@media (max-width: 560px) {
  .week {
    grid-template-columns: 1fr;
  }
}
.week strong {
  font-size: var(--type-28);
}
</style>
