<script setup lang="ts">
import { mdiClose } from "@mdi/js";
/** Year groups, from the youngest on: in a way schools name them, or the school's own. */
import { t } from "../messages/school";
import { ref } from "vue";
import { answer, client, type Schemas } from "../api/client";
import SettingFoot from "../parts/form/SettingFoot.vue";
import { useSetting } from "./useSchool";

const props = defineProps<{ school: Schemas["SchoolSettings"] }>();
const emit = defineEmits<{ kept: [] }>();
type Row = { id?: string | null; name: string; age: number };
const rows = ref<Row[]>(props.school.year_groups.map((one) => ({ ...one })));
const keeping = useSetting((body: Row[]) =>
  answer(client.PUT("/api/school/year-groups", { body: { rows: body } })),
);
/** Another way of naming: rows that are kept keep who they are, in their order. */
function take(way: Schemas["YearGroupWay"]) {
  rows.value = way.rows.map((row, n) => ({ ...row, id: props.school.year_groups[n]?.id ?? null }));
}
function add() {
  const last = rows.value.at(-1);
  rows.value.push({ id: null, name: "", age: (last?.age ?? 3) + 1 });
}
async function keep() {
  await keeping.mutateAsync(rows.value).then(
    (kept) => {
      rows.value = kept.year_groups.map((one) => ({ ...one }));
      emit("kept");
    },
    () => undefined,
  );
}
</script>

<template>
  <form class="fields" @submit.prevent="keep">
    <div class="line" role="group" :aria-label="t('namingSystem')">
      <v-btn
        v-for="way in school.ways"
        :key="way.name"
        variant="outlined"
        type="button"
        @click="take(way)"
      >
        {{ way.rows[0]?.name }} – {{ way.rows.at(-1)?.name }}
      </v-btn>
    </div>
    <ol class="rows">
      <li v-for="(row, n) in rows" :key="n">
        <v-text-field
          v-model="row.name"
          class="name"
          maxlength="40"
          :aria-label="t('nameOfYearGroupN', { n: n + 1 })"
        />
        <v-text-field
          v-model.number="row.age"
          class="day"
          type="number"
          min="3"
          max="14"
          :label="t('aged')"
        />
        <v-btn
          :icon="mdiClose"
          variant="text"
          type="button"
          :aria-label="t('deleteName', { name: row.name || 'it' })"
          @click="rows.splice(n, 1)"
        />
      </li>
    </ol>
    <p class="quiet">{{ t("agesAreInWholeYearsAt") }}</p>
    <SettingFoot
      :error="keeping.error.value"
      :pending="keeping.isPending.value"
      :kept="keeping.isSuccess.value"
    >
      <v-btn type="button" variant="outlined" @click="add">{{ t("addLesson") }}</v-btn>
      <slot />
    </SettingFoot>
  </form>
</template>

<style scoped src="../parts/form/settings.css"></style>
