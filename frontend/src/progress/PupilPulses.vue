<script setup lang="ts">
/** A child's pulses over its lessons: a measurement, never better or lower. */
import Fold from "../parts/Fold.vue";
import { t } from "../messages/progress";
import type { Schemas } from "../api/client";
import { shortDay } from "../parts/words";

defineProps<{ pulses: Schemas["ChildPulses"][] }>();
</script>

<template>
  <Fold board>
    <template #title>{{ t("pulseInNLesson", pulses.length) }}</template>
    <v-table>
      <thead>
        <tr>
          <th scope="col">{{ t("day") }}</th>
          <th scope="col" class="number">{{ t("atRest") }}</th>
          <th scope="col">{{ t("highest") }}</th>
          <th scope="col" class="number">{{ t("recovery") }}</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="row in pulses" :key="row.lesson_id">
          <td>{{ shortDay(row.on) }}</td>
          <td class="number">{{ row.rest ?? "–" }}</td>
          <td>
            {{ row.most ?? "–" }}
            <span v-if="row.after" class="quiet">{{
              t("afterActivity", { activity: row.after })
            }}</span>
          </td>
          <td class="number">{{ row.recovery ?? "–" }}</td>
        </tr>
      </tbody>
    </v-table>
    <p class="quiet">
      {{ t("beatsPerMinuteCountedByHand") }}
    </p>
  </Fold>
</template>
