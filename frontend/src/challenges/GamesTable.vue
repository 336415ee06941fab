<script setup lang="ts">
/** The table of the games: by points for each child on roll, so that a small school can win. */
import type { Schemas } from "../api/client";

const props = defineProps<{ page: Schemas["GamesPage"] }>();
const housesOf = (school: string) =>
  props.page.houses.find((one) => one.school === school)?.houses ?? [];
</script>

<template>
  <section class="board">
    <p v-if="!page.schools.length">
      No result counts yet. Send the games file to the schools; what they send back is taken in
      here, and counts once its check digits were compared.
    </p>
    <div v-else class="scroll">
      <table class="plain schools" data-testid="schools">
        <thead>
          <tr>
            <th scope="col">Place</th>
            <th scope="col">School</th>
            <th scope="col">Points a child</th>
            <th scope="col">Points</th>
            <th scope="col">Took part</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="one in page.schools" :key="one.name">
            <td class="figure place">{{ one.place }}</td>
            <th scope="row">{{ one.name }}</th>
            <td class="figure each">{{ one.a_child }}</td>
            <td>{{ one.points }}</td>
            <td>{{ one.took_part || `under ${page.fewest}` }} of {{ one.children }}</td>
          </tr>
        </tbody>
      </table>
    </div>
    <p v-if="page.schools.length" class="quiet">
      A child that takes part in a test gives {{ page.took_part_points }}, each rung up to its
      highest {{ page.rung_points }}; all of it shared by every child on roll. A place is shared by
      equals.
    </p>
    <template v-if="page.schools.length">
      <h2 class="by">Points for each child and test</h2>
      <div class="scroll">
        <table class="plain">
          <thead>
            <tr>
              <th scope="col">School</th>
              <th v-for="band in page.bands" :key="band.name" scope="col">{{ band.name }}</th>
              <th scope="col">Houses</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="one in page.schools" :key="one.name">
              <th scope="row">{{ one.name }}</th>
              <td v-for="band in page.bands" :key="band.name" class="figure">
                {{ band.schools.find((each) => each.name === one.name)?.a_child ?? "–" }}
              </td>
              <td>
                <span v-for="house in housesOf(one.name)" :key="house.name" class="house">
                  {{ house.name }} <b class="figure">{{ house.a_child }}</b>
                </span>
              </td>
            </tr>
          </tbody>
        </table>
      </div>
      <p class="quiet">
        – where groups were too small to be told apart: they were put together with others.
      </p>
    </template>
  </section>
</template>

<style scoped>
.schools {
  font-size: 1.2rem;
}
.place,
.each {
  font-size: 1.9rem;
  line-height: 1.1;
}
.by {
  margin-top: 14px;
}
.house {
  margin-right: 14px;
  white-space: nowrap;
}
</style>
