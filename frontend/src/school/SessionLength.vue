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
      <label class="line">
        {{ t("peopleWhoAreNotUsingLauf") }}
        <input
          v-model.number="form.idle_days"
          class="field day"
          type="number"
          min="1"
          max="60"
          required
          :aria-label="t('daysUntilPeopleAreSignedOut')"
        />
        {{ t("days") }}
      </label>
      <label class="line">
        {{ t("andOnTabletsAndPhonesAfter") }}
        <input
          v-model.number="form.tablet_idle_days"
          class="field day"
          type="number"
          min="1"
          max="60"
          required
          :aria-label="t('daysUntilPeopleAreSignedOut2')"
        />
        {{ t("days2") }}
      </label>
      <SettingFoot
        :error="setting.error.value"
        :pending="setting.isPending.value"
        :kept="setting.isSuccess.value"
      />
    </form>
  </section>
</template>

<style scoped src="../parts/form/settings.css"></style>
