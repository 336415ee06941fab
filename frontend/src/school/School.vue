<script setup lang="ts">
/** All that the head of PE sets: the year, the people, how long what is kept. */
import PageHead from "../parts/PageHead.vue";
import Fold from "../parts/Fold.vue";
import { t } from "../messages/school";
import { computed } from "vue";
import { answer, client } from "../api/client";
import LoadState from "../parts/LoadState.vue";
import { isoDay, shortDay } from "../parts/words";
import ChangeLog from "./ChangeLog.vue";
import DetailsForm from "./DetailsForm.vue";
import HousesForm from "./HousesForm.vue";
import Retention from "./Retention.vue";
import SessionLength from "./SessionLength.vue";
import SchemeForm from "./SchemeForm.vue";
import StaffTable from "./StaffTable.vue";
import TermsForm from "./TermsForm.vue";
import YearGroupsForm from "./YearGroupsForm.vue";
import { useSchool, useSetting } from "./useSchool";

const page = useSchool();
const units = useSetting((imperial: boolean) =>
  answer(client.PUT("/api/school/units", { body: { imperial } })),
);
const school = computed(() => page.data.value);
const now = isoDay();
const term = computed(() => {
  const found = school.value?.terms.find(
    (one) => one.kind === "term" && one.starts <= now && now <= one.ends,
  );
  if (found) return t("termUntilDay", { term: found.name, day: shortDay(found.ends) });
  return school.value?.terms.length ? t("betweenTerms") : t("noneYet");
});
/** What a fold says while it is closed. */
const folds = computed(() => ({
  years: school.value?.year_groups.map((one) => one.name).join(", "),
  houses: school.value?.houses.map((one) => one.name).join(", ") || t("none"),
}));
</script>

<template>
  <main id="main" tabindex="-1" class="page">
    <PageHead :title="school?.name ?? t('school')">
      <v-btn variant="outlined" :to="{ name: 'begin' }">{{ t("setUpSteps") }}</v-btn>
      <v-btn variant="outlined" :to="{ name: 'move-up' }">{{ t("moveUpAYear") }}</v-btn>
      <v-btn variant="outlined" :to="{ name: 'school-picture' }">{{ t("schoolPicture") }}</v-btn>
    </PageHead>
    <LoadState :query="page">
      <template v-if="school">
        <div class="folds">
          <Fold board>
            <template #title>
              <h2>{{ t("school") }}</h2>
            </template>
            <DetailsForm :school="school" />
          </Fold>
          <Fold board>
            <template #title>
              <h2>{{ t("yearGroups") }}</h2>
              <span class="quiet">{{ folds.years }}</span>
            </template>
            <YearGroupsForm :school="school" />
          </Fold>
          <Fold board>
            <template #title>
              <h2>{{ t("houses") }}</h2>
              <span class="quiet">{{ folds.houses }}</span>
            </template>
            <HousesForm :school="school" />
          </Fold>
          <Fold board>
            <template #title>
              <h2>{{ t("termsAndHolidays") }}</h2>
              <span class="quiet">{{ term }}</span>
            </template>
            <TermsForm :school="school" />
          </Fold>
          <Fold board>
            <template #title>
              <h2>{{ t("overallResult") }}</h2>
              <span class="quiet">{{ school.scheme ? t("on") : t("off") }}</span>
            </template>
            <SchemeForm :school="school" />
          </Fold>
          <Fold board>
            <template #title>
              <h2>{{ t("unitsShown") }}</h2>
              <span class="quiet">{{ school.imperial ? t("inFtLb") : t("cmMKg") }}</span>
            </template>
            <p class="quiet">
              {{ t("typeAUnitToEnterAnother") }}
            </p>
            <div class="line mt-2" role="radiogroup" :aria-label="t('unitsShown')">
              <v-btn
                v-for="one in [false, true]"
                :key="String(one)"
                size="large"
                role="radio"
                :aria-checked="school.imperial === one"
                :color="school.imperial === one ? 'primary' : undefined"
                :variant="school.imperial === one ? 'flat' : 'outlined'"
                @click="units.mutate(one)"
              >
                {{ one ? t("inFtLb") : t("cmMKg") }}
              </v-btn>
            </div>
            <p v-if="units.error.value" role="alert" class="problem">
              {{ units.error.value.message }}
            </p>
          </Fold>
        </div>
        <StaffTable :school="school" class="mt-4" />
        <p v-if="!school.staff.some((one) => one.second_factor)" class="quiet mt-2">
          {{ t("nPersonSignsInWithA", school.staff.length) }}
        </p>
        <SessionLength :school="school" />
        <Retention :school="school" />
      </template>
      <ChangeLog />
    </LoadState>
  </main>
</template>

<style scoped>
.folds {
  margin-bottom: var(--gap-24);
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: var(--gap-8);
}
.folds > .board {
  padding: var(--gap-4) var(--gap-24);
}
</style>
