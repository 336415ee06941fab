<script setup lang="ts">
/** What was really done so far, beside the plan. */
import Fold from "./Fold.vue";
import { t } from "../messages/parts";
import { useQuery } from "@tanstack/vue-query";
import { computed } from "vue";
import { answer, client } from "../api/client";
import { minutes } from "./time/minutes";

const props = defineProps<{
  lessonId: string;
  /** The conductor's state it is asked for with; null before it has begun. */
  revision: number | null;
  /** How many stretches are on record. */
  done: number;
}>();
const query = useQuery({
  queryKey: computed(() => ["done", props.lessonId, props.revision]),
  queryFn: () =>
    answer(
      client.GET("/api/lessons/{lesson_id}/record", {
        params: { path: { lesson_id: props.lessonId } },
      }),
    ),
  enabled: computed(() => props.done > 0),
  placeholderData: (old) => old,
});
</script>

<template>
  <Fold v-if="query.data.value?.length" board>
    <template #title>{{ t("whatWasDone") }}</template>
    <v-table>
      <thead>
        <tr>
          <th scope="col">{{ t("block") }}</th>
          <th scope="col">{{ t("done") }}</th>
          <th scope="col" class="number">{{ t("time") }}</th>
          <th scope="col">{{ t("outsideThePlan") }}</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="row in query.data.value" :key="`${row.block} ${row.label}`">
          <th scope="row">{{ row.block }}</th>
          <td>{{ row.label }}</td>
          <td class="figure number">{{ minutes(row.seconds) }}</td>
          <td>{{ row.words }}</td>
        </tr>
      </tbody>
    </v-table>
  </Fold>
</template>
