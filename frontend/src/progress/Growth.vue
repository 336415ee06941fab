<script setup lang="ts">
/** Height and weight of a child, for staff with that permission only; closed until asked for. */
import { t } from "../messages/progress";
import { useQuery } from "@tanstack/vue-query";
import { ref } from "vue";
import { answer, client } from "../api/client";
import { shortDay } from "../parts/words";

const props = defineProps<{ pupilId: string }>();
const open = ref(false);
const page = useQuery({
  queryKey: ["growth", props.pupilId],
  enabled: open,
  queryFn: () =>
    answer(
      client.GET("/api/pupils/{pupil_id}/growth", {
        params: { path: { pupil_id: props.pupilId } },
      }),
    ),
});
const data = page.data;
</script>

<template>
  <section class="board growth no-print">
    <div class="head">
      <h2>
        <i18n-t keypath="progress.growthSpan" scope="global"
          ><template #span
            ><span class="tag">{{ t("private") }}</span></template
          ></i18n-t
        >
      </h2>
      <v-btn variant="outlined" :aria-expanded="open" @click="open = !open">
        {{ open ? t("close") : t("open") }}
      </v-btn>
    </div>
    <template v-if="open && data">
      <p v-if="!data.tests.length" class="quiet">{{ t("noHeightOrWeightYet") }}</p>
      <div class="tables">
        <v-table v-for="test in data.tests" :key="test.test">
          <caption class="figure">
            {{
              test.test
            }}
          </caption>
          <tbody>
            <tr v-for="row in test.readings" :key="row.on">
              <td>{{ shortDay(row.on) }}</td>
              <td>
                <b class="figure">{{ row.shown }}</b>
              </td>
              <td>{{ row.centile }}</td>
            </tr>
            <tr v-if="test.yearly || test.moved">
              <td colspan="3">{{ [test.yearly, test.moved].filter(Boolean).join("; ") }}</td>
            </tr>
          </tbody>
        </v-table>
        <v-table v-if="data.bmi.length">
          <caption class="figure">
            {{
              t("bodyMassIndex")
            }}
          </caption>
          <tbody>
            <tr v-for="row in data.bmi" :key="row.on">
              <td>{{ shortDay(row.on) }}</td>
              <td>
                <b class="figure">{{ row.shown }}</b>
              </td>
              <td>{{ row.centile }}</td>
            </tr>
          </tbody>
        </v-table>
      </div>
      <p class="quiet">{{ data.caution }}</p>
      <p v-for="source in data.sources" :key="source" class="quiet">{{ source }}.</p>
    </template>
    <p v-else-if="open && page.isError.value" role="alert" class="problem">
      {{ page.error.value?.message }}
    </p>
  </section>
</template>

<style scoped>
.growth {
  margin-bottom: var(--gap-12);
}
.tables {
  display: flex;
  align-items: flex-start;
  flex-wrap: wrap;
  gap: var(--gap-12) var(--gap-32);
  margin: var(--gap-8) 0;
}
caption {
  text-align: left;
  font-size: var(--type-24);
}
td b {
  font-size: var(--type-24);
}
</style>
