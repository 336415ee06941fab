<script setup lang="ts">
/** A child's pulses over its lessons: a measurement, never better or lower. */
import type { Schemas } from "../api/client";
import { shortDay } from "../parts/words";

defineProps<{ pulses: Schemas["ChildPulses"][] }>();
</script>

<template>
  <details class="board">
    <summary>Pulses over {{ pulses.length }} lesson{{ pulses.length === 1 ? "" : "s" }}</summary>
    <table class="plain">
      <thead>
        <tr>
          <th scope="col">Day</th>
          <th scope="col">At rest</th>
          <th scope="col">Highest</th>
          <th scope="col">Recovery</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="row in pulses" :key="row.lesson_id">
          <td>{{ shortDay(row.on) }}</td>
          <td>{{ row.rest ?? "–" }}</td>
          <td>
            {{ row.most ?? "–" }} <span v-if="row.after" class="quiet">after {{ row.after }}</span>
          </td>
          <td>{{ row.recovery ?? "–" }}</td>
        </tr>
      </tbody>
    </table>
    <p class="quiet">
      Beats a minute, counted; a resting pulse falls with growth. For planning effort only: ask the
      school nurse or a doctor about anything that worries you.
    </p>
  </details>
</template>

<style scoped>
summary {
  min-height: 32px;
  font-weight: 700;
  cursor: pointer;
}
</style>
