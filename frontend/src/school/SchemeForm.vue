<script setup lang="ts">
import { mdiClose } from "@mdi/js";
/** One statement over several tests, where the school wants one: rungs to points to words. */
import { t } from "../messages/school";
import { reactive, ref } from "vue";
import { answer, client, type Schemas } from "../api/client";
import SettingFoot from "../parts/form/SettingFoot.vue";
import { useSetting } from "./useSchool";

const props = defineProps<{ school: Schemas["SchoolSettings"] }>();
const kept = props.school.scheme;
const on = ref(kept !== null);
const form = reactive({
  below: kept?.below ?? 0,
  points: (kept?.points ?? [1, 2, 3, 4]).join(", "),
  fewest: kept?.fewest ?? 3,
  marks: (kept?.marks ?? []).map((one) => ({ ...one })),
});
if (!form.marks.length) form.marks.push({ begins: "0", words: "" });
const setting = useSetting((wanted: boolean) =>
  answer(
    client.PUT("/api/school/scheme", {
      body: {
        scheme: wanted
          ? {
              below: form.below,
              points: form.points
                .split(/[,;\s]+/)
                .filter(Boolean)
                .map(Number),
              marks: form.marks.filter((one) => one.words.trim()),
              fewest: form.fewest,
            }
          : null,
      },
    }),
  ),
);
function next() {
  form.marks.push({ begins: "", words: "" });
}
</script>

<template>
  <form class="stack" @submit.prevent="setting.mutate(on)">
    <p>
      {{ t("offByDefaultRungsGivePoints") }}
    </p>
    <v-checkbox v-model="on" :label="t('ourSchoolWantsAnOverallResult')" />
    <template v-if="on">
      <div class="line">
        <v-text-field
          v-model.number="form.below"
          class="short"
          type="number"
          min="0"
          max="100"
          :label="t('belowTheFirstRung')"
        />
        <v-text-field
          v-model="form.points"
          placeholder="1, 2, 3, 4"
          :label="t('pointsForEachRungLowestFirst')"
        />
        <v-text-field
          v-model.number="form.fewest"
          class="short"
          type="number"
          min="1"
          max="20"
          :label="t('testsNeeded')"
        />
      </div>
      <div v-for="(mark, place) in form.marks" :key="place" class="line">
        {{ t("from") }}
        <v-text-field
          v-model="mark.begins"
          class="short"
          inputmode="decimal"
          :aria-label="t('pointsPerTestForResultN', { n: place + 1 })"
        />
        {{ t("pointsPerTest") }}
        <v-text-field
          v-model="mark.words"
          maxlength="60"
          :aria-label="t('wordsOfResultN', { n: place + 1 })"
        />
        <v-btn
          v-if="form.marks.length > 1"
          :icon="mdiClose"
          variant="text"
          :aria-label="t('removeResultN', { n: place + 1 })"
          @click="form.marks.splice(place, 1)"
        />
      </div>
      <div>
        <v-btn variant="outlined" @click="next">{{ t("addResult") }}</v-btn>
      </div>
    </template>
    <SettingFoot
      :error="setting.error.value"
      :pending="setting.isPending.value"
      :kept="setting.isSuccess.value"
    />
  </form>
</template>

<style scoped>
.short {
  width: 96px;
}
</style>
