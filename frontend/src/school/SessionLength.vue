<script setup lang="ts">
/** How long people stay signed in without using Lauf. */
import { t } from "../messages/school";
import { reactive } from "vue";
import { answer, client, type Schemas } from "../api/client";
import SettingFoot from "../parts/form/SettingFoot.vue";
import { useSetting } from "./useSchool";

const props = defineProps<{ school: Schemas["SchoolSettings"] }>();
const form = reactive({
  idle_days: props.school.idle_days,
  tablet_idle_days: props.school.tablet_idle_days,
});
const setting = useSetting((body: typeof form) =>
  answer(client.PUT("/api/school/idle", { body: { ...body } })),
);
</script>

<template>
  <section class="board mt-4">
    <h2>{{ t("automaticSignOut") }}</h2>
    <form class="fields mt-2" @submit.prevent="setting.mutate(form)">
      <v-text-field
        v-model.number="form.idle_days"
        class="day"
        type="number"
        min="1"
        max="60"
        required
        :label="t('daysUntilPeopleAreSignedOut')"
      />
      <v-text-field
        v-model.number="form.tablet_idle_days"
        class="day"
        type="number"
        min="1"
        max="60"
        required
        :label="t('daysUntilPeopleAreSignedOut2')"
      />
      <SettingFoot
        :error="setting.error.value"
        :pending="setting.isPending.value"
        :kept="setting.isSuccess.value"
      />
    </form>
  </section>
</template>

<style scoped src="../parts/form/settings.css"></style>
