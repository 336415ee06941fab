<script setup lang="ts">
/** Houses or teams, if the school has any. */
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
    <p v-if="!rows.length" class="quiet">None yet. Points are then counted for classes only.</p>
    <ol class="rows">
      <li v-for="(row, n) in rows" :key="n">
        <input
          v-model="row.name"
          class="field name"
          maxlength="40"
          :aria-label="`Name of house ${n + 1}`"
        />
        <v-btn
          type="button"
          variant="text"
          :aria-label="`Take ${row.name || 'it'} away`"
          @click="rows.splice(n, 1)"
          >×</v-btn
        >
      </li>
    </ol>
    <SettingFoot
      :error="keeping.error.value"
      :pending="keeping.isPending.value"
      :kept="keeping.isSuccess.value"
    >
      <v-btn type="button" variant="outlined" @click="rows.push({ id: null, name: '' })">
        Another
      </v-btn>
      <slot />
    </SettingFoot>
  </form>
</template>

<style scoped src="../parts/form/settings.css"></style>
