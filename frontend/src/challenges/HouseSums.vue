<script setup lang="ts">
import { t } from "../messages/challenges";
import type { Schemas } from "../api/client";

defineProps<{ houses: Schemas["HouseSum"][] }>();
</script>

<template>
  <section v-if="houses.length" class="board">
    <h2>{{ t("houses") }}</h2>
    <v-table>
      <thead>
        <tr>
          <th scope="col">{{ t("house") }}</th>
          <th scope="col" class="number">{{ t("points") }}</th>
          <th scope="col" class="number">{{ t("aChild") }}</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="one in houses" :key="one.house">
          <th scope="row">{{ one.house }}</th>
          <td class="figure sum number">{{ one.points }}</td>
          <td class="figure number">
            {{ one.each }}
            <span class="quiet">{{ t("ofChildren", { children: one.children }) }}</span>
          </td>
        </tr>
      </tbody>
    </v-table>
  </section>
</template>

<style scoped>
.sum {
  font-size: var(--type-24);
}
</style>
