<script setup lang="ts">
/** The school's name, and the day on which year groups change. */
import { LANGUAGE } from "../messages/area";
import { t } from "../messages/school";
import { reactive } from "vue";
import { answer, client, type Schemas } from "../api/client";
import SettingFoot from "../parts/form/SettingFoot.vue";
import { useSetting } from "./useSchool";

const props = defineProps<{ school: Schemas["SchoolSettings"] }>();
const emit = defineEmits<{ kept: [] }>();
const { name, cut_off_month, cut_off_day } = props.school;
const form = reactive({ name, cut_off_month, cut_off_day });
const MONTHS = Array.from({ length: 12 }, (_, n) =>
  new Intl.DateTimeFormat(LANGUAGE, { month: "long" }).format(new Date(2026, n, 1)),
);
const keeping = useSetting((body: typeof form) =>
  answer(client.PUT("/api/school/details", { body: { ...body } })),
);
async function keep() {
  await keeping.mutateAsync(form).then(
    () => emit("kept"),
    () => undefined,
  );
}
</script>

<template>
  <form class="fields" @submit.prevent="keep">
    <v-text-field v-model="form.name" maxlength="120" required :label="t('school')" />
    <fieldset class="labelled">
      <legend>{{ t("schoolYearBegins") }}</legend>
      <span class="line">
        <v-text-field
          v-model.number="form.cut_off_day"
          class="day"
          type="number"
          min="1"
          max="28"
          :aria-label="t('day')"
        />
        <v-select
          v-model="form.cut_off_month"
          :aria-label="t('month')"
          :items="MONTHS.map((month, n) => ({ value: n + 1, title: month }))"
        />
      </span>
      <span class="quiet">{{ t("aChildsAgeOnTheDay") }}</span>
    </fieldset>
    <SettingFoot
      :error="keeping.error.value"
      :pending="keeping.isPending.value"
      :kept="keeping.isSuccess.value"
    >
      <slot />
    </SettingFoot>
  </form>
</template>

<style scoped src="../parts/form/settings.css"></style>
