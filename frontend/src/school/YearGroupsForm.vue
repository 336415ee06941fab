<script setup lang="ts">
/** Year groups, from the youngest on: in a way schools name them, or the school's own. */
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
    <div class="line" role="group" aria-label="Ways to name them">
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
        <input
          v-model="row.name"
          class="field name"
          maxlength="40"
          :aria-label="`Name of year group ${n + 1}`"
        />
        <label class="line">
          aged
          <input v-model.number="row.age" class="field day" type="number" min="3" max="14" />
        </label>
        <v-btn
          type="button"
          variant="text"
          :aria-label="`Take ${row.name || 'it'} away`"
          @click="rows.splice(n, 1)"
          >×</v-btn
        >
      </li>
    </ol>
    <p class="quiet">The age is in whole years when the school year begins.</p>
    <SettingFoot
      :error="keeping.error.value"
      :pending="keeping.isPending.value"
      :kept="keeping.isSuccess.value"
    >
      <v-btn type="button" variant="outlined" @click="add">Another</v-btn>
      <slot />
    </SettingFoot>
  </form>
</template>

<style scoped src="../parts/form/settings.css"></style>
