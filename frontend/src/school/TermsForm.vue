<script setup lang="ts">
import { mdiClose } from "@mdi/js";
/** Terms and holidays: the timetable makes lessons on days of a term only. */
import { t } from "../messages/school";
import { ref } from "vue";
import { answer, client, type Schemas } from "../api/client";
import SettingFoot from "../parts/form/SettingFoot.vue";
import { useSetting } from "./useSchool";

const props = defineProps<{ school: Schemas["SchoolSettings"] }>();
const emit = defineEmits<{ kept: [] }>();
type Row = Schemas["TermEntry"];
const rows = ref<Row[]>(props.school.terms.map((one) => ({ ...one })));
const keeping = useSetting((body: Row[]) =>
  answer(client.PUT("/api/school/terms", { body: { rows: body } })),
);
function add(kind: Row["kind"]) {
  rows.value.push({ kind, name: "", starts: "", ends: "" });
}
const unfinished = ref("");
async function keep() {
  const wanted = rows.value.filter((row) => row.name || row.starts || row.ends);
  unfinished.value = wanted.every((row) => row.starts && row.ends)
    ? ""
    : t("giveEveryTermAndHolidayIts");
  if (unfinished.value) return;
  await keeping.mutateAsync(wanted).then(
    (kept) => {
      rows.value = kept.terms.map((one) => ({ ...one }));
      emit("kept");
    },
    () => undefined,
  );
}
</script>

<template>
  <form class="fields" @submit.prevent="keep">
    <p v-if="!rows.length" class="quiet">{{ t("noTermsYetUntilYouAdd") }}</p>
    <ol class="rows">
      <li v-for="(row, n) in rows" :key="n">
        <v-select
          v-model="row.kind"
          :aria-label="t('typeOfRowN', { n: n + 1 })"
          :items="[
            { value: 'term', title: t('term') },
            { value: 'holiday', title: t('holiday') },
          ]"
        />
        <v-text-field
          v-model="row.name"
          class="name"
          maxlength="40"
          :aria-label="t('nameOfRowN', { n: n + 1 })"
        />
        <v-text-field
          v-model="row.starts"
          type="date"
          :aria-label="t('firstDayOfRowN', { n: n + 1 })"
        />
        –
        <v-text-field
          v-model="row.ends"
          type="date"
          :aria-label="t('lastDayOfRowN', { n: n + 1 })"
        />
        <v-btn
          :icon="mdiClose"
          variant="text"
          type="button"
          :aria-label="t('deleteName', { name: row.name || t('rowN', { n: n + 1 }) })"
          @click="rows.splice(n, 1)"
        />
      </li>
    </ol>
    <p v-if="unfinished" role="alert" class="problem">{{ unfinished }}</p>
    <SettingFoot
      :error="keeping.error.value"
      :pending="keeping.isPending.value"
      :kept="keeping.isSuccess.value"
    >
      <v-btn type="button" variant="outlined" @click="add('term')">{{ t("addTerm") }}</v-btn>
      <v-btn type="button" variant="outlined" @click="add('holiday')">{{ t("addHoliday") }}</v-btn>
      <slot />
    </SettingFoot>
  </form>
</template>

<style scoped src="../parts/form/settings.css"></style>
