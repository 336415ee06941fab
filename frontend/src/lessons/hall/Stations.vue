<script setup lang="ts">
/** Groups over stations, round by round, and a card to print for each station. */
import { t } from "../../messages/lessons";
import { useQuery } from "@tanstack/vue-query";
import { computed } from "vue";
import { useRoute } from "vue-router";
import { answer, client } from "../../api/client";
import LoadState from "../../parts/LoadState.vue";
import { minutes } from "../../parts/time/minutes";
import { useLesson } from "../useLesson";

const { lesson } = useLesson();
const route = useRoute();
const block = Number(route.params.block);
const query = useQuery({
  queryKey: ["stations", lesson.value?.id, block],
  queryFn: () =>
    answer(
      client.GET("/api/lessons/{lesson_id}/stations/{block}", {
        params: { path: { lesson_id: lesson.value?.id ?? "", block } },
      }),
    ),
});
const page = query.data;
const made = computed(() => page.value?.groups.some((group) => group.children.length) ?? false);
function names(group: string): string {
  const found = page.value?.groups.find((one) => one.name === group);
  return (found?.children ?? []).map((one) => one.name).join(", ");
}
function print() {
  window.print();
}
</script>

<template>
  <LoadState :query="query">
    <section v-if="page" class="stack">
      <div class="line no-print">
        <h2>{{ page.label }}</h2>
        <span class="space" />
        <v-btn variant="outlined" :to="{ name: 'plan' }">{{ t("backToThePlan") }}</v-btn>
        <v-btn color="primary" @click="print">{{ t("printCards") }}</v-btn>
      </div>
      <p v-if="!made" class="board no-print">
        {{ t("noGroupsYetOpenThePlan") }}
      </p>
      <p v-for="one in page.gave_up" :key="one" class="board told no-print">{{ one }}</p>
      <div class="board scroll no-print">
        <v-table class="rounds">
          <caption class="sr-only">
            {{
              t("whereEachGroupIsInEach")
            }}
          </caption>
          <thead>
            <tr>
              <th scope="col">{{ t("station") }}</th>
              <th v-for="(_, number) in page.rounds" :key="number" scope="col">
                {{ t("roundNumber", { number: number + 1 }) }}
              </th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="station in page.stations" :key="station.name">
              <th scope="row">
                <span class="figure name">{{ station.name }}</span>
                <span class="quiet">{{ station.loads.join(", ") }}</span>
              </th>
              <td v-for="(groups, number) in station.visits" :key="number">
                {{ groups.join(", ") || t("free") }}
              </td>
            </tr>
          </tbody>
        </v-table>
      </div>
      <div class="groups no-print">
        <section v-for="group in page.groups" :key="group.name" class="board">
          <h3 class="figure">{{ group.name }}</h3>
          <ul>
            <li v-for="child in group.children" :key="child.id">{{ child.name }}</li>
          </ul>
        </section>
      </div>
      <article v-for="station in page.stations" :key="`card ${station.name}`" class="card">
        <p>{{ page.class_name }} · {{ page.label }}</p>
        <h2 class="figure">{{ station.name }}</h2>
        <p>{{ t("workSOfWorkChangeS", { work: page.work, change: page.change }) }}</p>
        <ol>
          <li v-for="(groups, number) in station.visits" :key="number">
            <strong class="figure">{{ groups.join(", ") || t("free") }}</strong>
            <span v-for="group in groups" :key="group">{{ names(group) }}</span>
          </li>
        </ol>
        <p class="care">
          {{ t("keepClearSpaceAllRoundGood") }}
        </p>
      </article>
      <p class="quiet no-print">
        {{
          t("timeInTotalCardsPrintOne", {
            time: minutes(page.rounds.length * (page.work + page.change)),
          })
        }}
      </p>
    </section>
  </LoadState>
</template>

<style scoped>
.space {
  flex: 1;
}
.told {
  border-left: var(--bar) solid var(--pennant);
}
.rounds td,
.rounds th {
  vertical-align: top;
}
.name {
  display: block;
  font-size: var(--type-24);
  line-height: 1.1;
}
.groups {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(200px, 1fr));
  gap: var(--gap-12);
}
.groups ul {
  list-style: none;
  padding: 0;
}
.groups h3 {
  font-size: var(--type-24);
}
.card {
  display: none;
}
@media print {
  .card {
    display: block;
    break-after: page;
    font-size: var(--type-24);
  }
  .card h2 {
    font-size: var(--type-64);
    line-height: 1;
  }
  .card li {
    margin-bottom: var(--gap-8);
  }
  .card strong {
    display: block;
    font-size: var(--type-28);
  }
}
</style>
