<script setup lang="ts">
import type { Schemas } from "../api/client";

defineProps<{ houses: Schemas["HouseSum"][] }>();
</script>

<template>
  <section v-if="houses.length" class="board">
    <h2>Houses</h2>
    <table class="plain">
      <thead>
        <tr>
          <th scope="col">House</th>
          <th scope="col">Points</th>
          <th scope="col">A child</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="one in houses" :key="one.house">
          <th scope="row">{{ one.house }}</th>
          <td class="figure sum">{{ one.points }}</td>
          <td class="figure">
            {{ one.each }} <span class="quiet">of {{ one.children }}</span>
          </td>
        </tr>
      </tbody>
    </table>
  </section>
</template>

<style scoped>
table.plain td,
table.plain th {
  vertical-align: baseline;
}
.sum {
  font-size: 1.6rem;
}
</style>
