<script setup lang="ts">
/** The first steps of a new school, one after the other; each can be left for later. */
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
  { name: "School", help: "The name stands on what you print. Most schools begin in September." },
  { name: "Year groups", help: "Benchmarks go by them. Choose a way, or write your own." },
  { name: "Houses", help: "For points and teams. A school without houses leaves this out." },
  { name: "Terms", help: "Lessons of the timetable are made in terms, not in holidays." },
  { name: "Children", help: "From the office's list, in whatever form it comes." },
  { name: "Staff", help: "Each gets a link by which they set a password of their own." },
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
    <h1>Begin</h1>
    <hr class="court-line" />
    <ol class="steps">
      <li v-for="(one, n) in STEPS" :key="one.name">
        <button type="button" :aria-current="n === at ? 'step' : undefined" @click="at = n">
          <span class="figure">{{ n + 1 }}</span> {{ one.name }}
        </button>
      </li>
    </ol>
    <LoadState :query="page">
      <section v-if="school" class="board">
        <h2>{{ step.name }}</h2>
        <p class="quiet mb-2">{{ step.help }}</p>
        <DetailsForm v-if="at === 0" :school="school" @kept="on">
          <v-btn variant="text" type="button" @click="on">Later</v-btn>
        </DetailsForm>
        <YearGroupsForm v-else-if="at === 1" :school="school" @kept="on">
          <v-btn variant="text" type="button" @click="on">Later</v-btn>
        </YearGroupsForm>
        <HousesForm v-else-if="at === 2" :school="school" @kept="on">
          <v-btn variant="text" type="button" @click="on">Later</v-btn>
        </HousesForm>
        <TermsForm v-else-if="at === 3" :school="school" @kept="on">
          <v-btn variant="text" type="button" @click="on">Later</v-btn>
        </TermsForm>
        <div v-else-if="at === 4" class="line">
          <v-btn color="primary" size="large" :to="{ name: 'people-list' }">
            Children from a list
          </v-btn>
          <v-btn variant="outlined" size="large" :to="{ name: 'classes' }">Type a class in</v-btn>
          <v-btn variant="text" type="button" @click="on">Later</v-btn>
        </div>
        <template v-else>
          <StaffTable :school="school" />
          <div class="line mt-4">
            <v-btn color="primary" size="large" :to="{ name: 'new-lesson' }">Test a class</v-btn>
            <v-btn variant="outlined" size="large" :to="{ name: 'today' }">To Today</v-btn>
          </div>
        </template>
      </section>
    </LoadState>
    <p class="quiet mt-4">All of it can be changed later under School.</p>
  </main>
</template>

<style scoped>
.steps {
  list-style: none;
  display: flex;
  flex-wrap: wrap;
  padding: 0;
  margin-bottom: 16px;
}
.steps button {
  min-height: 48px;
  padding: 6px 16px;
  border-bottom: 3px solid var(--rule);
}
.steps button[aria-current] {
  border-bottom-color: var(--pennant);
  font-weight: 700;
}
.steps .figure {
  font-size: 1.5rem;
  color: var(--line);
}
</style>
