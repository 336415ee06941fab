<script setup lang="ts">
/** The first steps of a new school, one after the other; each can be left for later. */
import PageHead from "../parts/PageHead.vue";
import { t } from "../messages/school";
import { computed, ref } from "vue";
import LoadState from "../parts/LoadState.vue";
import DetailsForm from "./DetailsForm.vue";
import HousesForm from "./HousesForm.vue";
import StaffTable from "./StaffTable.vue";
import TermsForm from "./TermsForm.vue";
import YearGroupsForm from "./YearGroupsForm.vue";
import { useSchool } from "./useSchool";

const page = useSchool();
const school = computed(() => page.data.value);
interface Step {
  name: string;
  help: string;
}
const STEPS: [Step, ...Step[]] = [
  { name: t("school"), help: t("theNameAppearsOnEverythingYou") },
  { name: t("yearGroups"), help: t("benchmarksDependOnThemChooseA") },
  { name: t("houses"), help: t("forPointsAndTeamsSkipThis") },
  { name: t("terms"), help: t("weeklyLessonsAppearInTermTime") },
  { name: t("children"), help: t("fromTheOfficesListInAny") },
  { name: t("staff"), help: t("everyoneGetsAnInvitationToChoose") },
];
const at = ref(0);
const step = computed(() => STEPS[at.value] ?? STEPS[0]);
function on() {
  at.value = Math.min(STEPS.length - 1, at.value + 1);
  document.querySelector("main")?.focus();
}
</script>

<template>
  <main id="main" tabindex="-1" class="page">
    <PageHead :title="t('setUp')"
      ><template #trail
        ><RouterLink :to="{ name: 'school' }">{{ t("school") }}</RouterLink></template
      ></PageHead
    >
    <ol class="steps">
      <li v-for="(one, n) in STEPS" :key="one.name">
        <v-btn variant="text" :aria-current="n === at ? 'step' : undefined" @click="at = n">
          <span class="figure">{{ n + 1 }}</span> {{ one.name }}
        </v-btn>
      </li>
    </ol>
    <LoadState :query="page">
      <section v-if="school" class="board">
        <h2>{{ step.name }}</h2>
        <p class="quiet mb-2">{{ step.help }}</p>
        <DetailsForm v-if="at === 0" :school="school" @kept="on">
          <v-btn variant="text" type="button" @click="on">{{ t("later") }}</v-btn>
        </DetailsForm>
        <YearGroupsForm v-else-if="at === 1" :school="school" @kept="on">
          <v-btn variant="text" type="button" @click="on">{{ t("later") }}</v-btn>
        </YearGroupsForm>
        <HousesForm v-else-if="at === 2" :school="school" @kept="on">
          <v-btn variant="text" type="button" @click="on">{{ t("later") }}</v-btn>
        </HousesForm>
        <TermsForm v-else-if="at === 3" :school="school" @kept="on">
          <v-btn variant="text" type="button" @click="on">{{ t("later") }}</v-btn>
        </TermsForm>
        <div v-else-if="at === 4" class="line">
          <v-btn color="primary" size="large" :to="{ name: 'people-list' }">
            {{ t("importChildrenFromAList") }}
          </v-btn>
          <v-btn variant="outlined" size="large" :to="{ name: 'classes' }">{{
            t("typeInAClass")
          }}</v-btn>
          <v-btn variant="text" type="button" @click="on">{{ t("later") }}</v-btn>
        </div>
        <template v-else>
          <StaffTable :school="school" />
          <div class="line mt-4">
            <v-btn color="primary" size="large" :to="{ name: 'new-lesson' }">{{
              t("testAClass")
            }}</v-btn>
            <v-btn variant="outlined" size="large" :to="{ name: 'today' }">{{
              t("goToToday")
            }}</v-btn>
          </div>
        </template>
      </section>
    </LoadState>
    <p class="quiet mt-4">{{ t("youCanChangeAllOfThis") }}</p>
  </main>
</template>

<style scoped>
.steps {
  list-style: none;
  display: flex;
  flex-wrap: wrap;
  padding: 0;
  margin-bottom: var(--gap-16);
}
.steps .v-btn {
  border-radius: 0;
  border-bottom: var(--line-3) solid var(--rule);
}
.steps .v-btn[aria-current] {
  border-bottom-color: var(--pennant);
  font-weight: 700;
}
.steps .figure {
  margin-right: var(--gap-8);
  font-size: var(--type-24);
  color: var(--line);
}
</style>
