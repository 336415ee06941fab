<script setup lang="ts">
/** The table of the games: by points for each child on roll, so that a small school can win. */
import { t } from "../messages/challenges";
import type { Schemas } from "../api/client";

const props = defineProps<{ page: Schemas["GamesPage"] }>();
const housesOf = (school: string) =>
  props.page.houses.find((one) => one.school === school)?.houses ?? [];
</script>

<template>
  <section class="board">
    <p v-if="!page.schools.length">
      {{ t("noResultsCountYetSendThe") }}
    </p>
    <div v-else class="scroll">
      <v-table class="schools" data-testid="schools">
        <thead>
          <tr>
            <th scope="col">{{ t("place") }}</th>
            <th scope="col">{{ t("school") }}</th>
            <th scope="col" class="number">{{ t("pointsPerChild") }}</th>
            <th scope="col" class="number">{{ t("points") }}</th>
            <th scope="col" class="number">{{ t("tookPart") }}</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="one in page.schools" :key="one.name">
            <td class="figure place">{{ one.place }}</td>
            <th scope="row">{{ one.name }}</th>
            <td class="figure each number">{{ one.a_child }}</td>
            <td class="number">{{ one.points }}</td>
            <td class="number">
              {{
                t("tookpartOfChildren", {
                  tookPart: one.took_part || t("underN", { n: page.fewest }),
                  children: one.children,
                })
              }}
            </td>
          </tr>
        </tbody>
      </v-table>
    </div>
    <p v-if="page.schools.length" class="quiet">
      {{ t("takingPartInATestGives", { part: page.took_part_points, rung: page.rung_points }) }}
    </p>
    <template v-if="page.schools.length">
      <h2 class="by">{{ t("pointsForEachChildAndTest") }}</h2>
      <div class="scroll">
        <v-table>
          <thead>
            <tr>
              <th scope="col">{{ t("school") }}</th>
              <th v-for="band in page.bands" :key="band.name" scope="col" class="number">
                {{ band.name }}
              </th>
              <th scope="col">{{ t("houses") }}</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="one in page.schools" :key="one.name">
              <th scope="row">{{ one.name }}</th>
              <td v-for="band in page.bands" :key="band.name" class="figure number">
                {{ band.schools.find((each) => each.name === one.name)?.a_child ?? "–" }}
              </td>
              <td>
                <span v-for="house in housesOf(one.name)" :key="house.name" class="house">
                  {{ house.name }} <b class="figure">{{ house.a_child }}</b>
                </span>
              </td>
            </tr>
          </tbody>
        </v-table>
      </div>
      <p class="quiet">
        {{ t("meansTheGroupWasTooSmall") }}
      </p>
    </template>
  </section>
</template>

<style scoped>
.schools {
  font-size: var(--type-18);
}
.place,
.each {
  font-size: var(--type-28);
  line-height: 1.1;
}
.by {
  margin-top: var(--gap-12);
}
.house {
  margin-right: var(--gap-12);
  white-space: nowrap;
}
</style>
