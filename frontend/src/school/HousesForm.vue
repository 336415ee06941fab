<script setup lang="ts">
import { mdiClose } from "@mdi/js";
/** Houses or teams, if the school has any. */
import { t } from "../messages/school";
import { ref } from "vue";
import { answer, client, type Schemas } from "../api/client";
import SettingFoot from "../parts/form/SettingFoot.vue";
import { useSetting } from "./useSchool";

const props = defineProps<{ school: Schemas["SchoolSettings"] }>();
const emit = defineEmits<{ kept: [] }>();
type Row = { id?: string | null; name: string };
const rows = ref<Row[]>(props.school.houses.map((one) => ({ ...one })));
const keeping = useSetting((body: Row[]) =>
  answer(client.PUT("/api/school/houses", { body: { rows: body } })),
);
async function keep() {
  const wanted = rows.value.filter((row) => row.id || row.name.trim());
  await keeping.mutateAsync(wanted).then(
    (kept) => {
      rows.value = kept.houses.map((one) => ({ ...one }));
      emit("kept");
    },
    () => undefined,
  );
}
</script>

<template>
  <form class="fields" @submit.prevent="keep">
    <p v-if="!rows.length" class="quiet">{{ t("noHousesYetPointsAreCounted") }}</p>
    <ol class="rows">
      <li v-for="(row, n) in rows" :key="n">
        <v-text-field
          v-model="row.name"
          class="name"
          maxlength="40"
          :aria-label="t('nameOfHouseN', { n: n + 1 })"
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
    <SettingFoot
      :error="keeping.error.value"
      :pending="keeping.isPending.value"
      :kept="keeping.isSuccess.value"
    >
      <v-btn type="button" variant="outlined" @click="rows.push({ id: null, name: '' })">
        {{ t("addLesson") }}
      </v-btn>
      <slot />
    </SettingFoot>
  </form>
</template>

<style scoped src="../parts/form/settings.css"></style>
