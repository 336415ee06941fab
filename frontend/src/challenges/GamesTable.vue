<script setup lang="ts">
/** The table of the games: by points for each child on roll, so that a small school can win. */
import type { Schemas } from "../api/client";

defineProps<{ page: Schemas["GamesPage"] }>();
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
    <h2 v-if="page.schools.length" class="by">Points for each child and test</h2>
    <div v-if="page.schools.length" class="more">
      <section v-for="band in page.bands" :key="band.name">
        <h3>{{ band.name }}</h3>
        <p v-if="!band.schools.length" class="quiet">not told apart by any school</p>
        <ul>
          <li v-for="one in band.schools" :key="one.name">
            {{ one.name }} <b class="figure">{{ one.a_child }}</b>
          </li>
        </ul>
      </section>
      <section v-for="one in page.houses" :key="one.school">
        <h3>Houses of {{ one.school }}</h3>
        <ul>
          <li v-for="house in one.houses" :key="house.name">
            {{ house.place }}. {{ house.name }} <b class="figure">{{ house.a_child }}</b>
          </li>
        </ul>
      </section>
    </div>
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
.more {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(200px, 1fr));
  gap: 4px 24px;
}
.more ul {
  list-style: none;
  padding: 0;
}
.more b {
  font-size: 1.3rem;
}
</style>
